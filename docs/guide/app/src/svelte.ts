import { mount } from 'svelte';
import Shop from './ShopInSvelte.svelte';

mount(Shop, { target: document.getElementById('shop')! });
