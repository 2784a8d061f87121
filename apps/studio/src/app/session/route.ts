import { readForm } from '@/http/input';
import { requireOwnPage } from '@/http/own-page';
import { problemReply } from '@/http/problem';
import { Reply } from '@/http/reply';
import { handler } from '@/http/route';
import { safePath } from '@/http/safe-path';
import { isSecure } from '@/http/visitor-address';
import { isFailure } from '@/server/failure';
import { runtime } from '@/server/runtime';
import { sessionCookie } from '@/server/sessions/sessions';

/** Signs in, or sets the first password; a plain form, so that it needs no JavaScript. */
export const POST = handler(async (request) => {
  let next = '/';
  try {
    requireOwnPage(request);
    const form = await readForm(request);
    const field = (name: string): string => form.get(name) ?? '';
    next = safePath(field('next'));
    const { sessions, flushed } = runtime();
    const from = request.remote ?? 'unknown';
    const cookie = sessions.hasPassword
      ? await sessions.signIn(field('password'), from)
      : await sessions.setPassword(field('code'), field('password'), from);
    await flushed();
    return goTo(next, { 'Set-Cookie': sessionCookie(cookie, isSecure(request.headers)) });
  } catch (error) {
    if (!isFailure(error) || error.code === 'too-large' || error.code === 'unsupported-type')
      return problemReply(error);
    return goTo(`/sign-in?${new URLSearchParams({ next, problem: error.message }).toString()}`);
  }
});

const goTo = (location: string, headers: Record<string, string> = {}): Reply =>
  new Reply(null, { status: 303, headers: { Location: location, ...headers } });
