import { createApp } from 'vue';
import Shop from './ShopInVue.vue';

createApp(Shop).mount('#shop');
