/** Every `route.ts` of `app/`, found when the front server is bundled. */
declare module 'yucca:routes' {
  import type { RouteTable } from '@/front/router';
  const routes: RouteTable;
  export default routes;
}
