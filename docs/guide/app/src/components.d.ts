// What a file of Vue's is to TypeScript; Svelte brings its own.
declare module '*.vue' {
  import type { Component } from 'vue';

  const component: Component;
  export default component;
}
