import { requireOwnPage } from '@/http/own-page';
import { sessionOf } from '@/http/caller';
import { problemReply } from '@/http/problem';
import { Reply } from '@/http/reply';
import { handler } from '@/http/route';
import { isSecure } from '@/http/visitor-address';
import { runtime } from '@/server/runtime';
import { sessionCookie } from '@/server/sessions/sessions';

/** Signs out. */
export const POST = handler(signOut);

async function signOut(request: Parameters<typeof POST.answer>[0]): Promise<Reply> {
  try {
    requireOwnPage(request);
    const { sessions, flushed } = runtime();
    sessions.signOut(sessionOf(request.headers));
    await flushed();
  } catch (error) {
    return problemReply(error);
  }
  const cookie = sessionCookie(null, isSecure(request.headers));
  return new Reply(null, { status: 303, headers: { Location: '/sign-in', 'Set-Cookie': cookie } });
}
