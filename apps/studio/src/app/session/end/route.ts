import { requireOwnPage } from '@/http/own-page';
import { sessionOf } from '@/http/caller';
import { problemResponse } from '@/http/problem';
import { runtime } from '@/server/runtime';
import { sessionCookie } from '@/server/sessions/sessions';

/** Signs out. */
export function POST(request: Request): Response {
  try {
    requireOwnPage(request);
  } catch (error) {
    return problemResponse(error);
  }
  runtime().sessions.signOut(sessionOf(request.headers));
  return new Response(null, {
    status: 303,
    headers: { Location: '/sign-in', 'Set-Cookie': sessionCookie(null, false) },
  });
}
