import { refuseOthers, route } from '@/http/route';

export const DELETE = route('admin', ({ params, yucca }) => {
  yucca.keys.remove(params.id!);
  return new Response(null, { status: 204 });
});

export const { GET, POST, PUT, PATCH } = refuseOthers('DELETE');
