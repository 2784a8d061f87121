import { refuseOthers, route } from '@/http/route';

export const GET = route('admin', ({ url, yucca }) => {
  const items = yucca.tasks.list(url.searchParams.get('collection'));
  return Response.json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
