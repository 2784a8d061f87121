import { refuseOthers, route } from '@/http/route';

export const GET = route('write', ({ params, yucca }) => Response.json({ task: yucca.tasks.get(params.id!) }));

export const DELETE = route('write', ({ params, yucca }) =>
  Response.json({ task: yucca.tasks.cancel(params.id!) }, { status: 202 }),
);

export const { POST, PUT, PATCH } = refuseOthers('GET', 'DELETE');
