import { requireOwnPage } from '@/http/own-page';
import { safePath } from '@/http/safe-path';
import { isFailure } from '@/server/failure';
import { runtime } from '@/server/runtime';
import { sessionCookie } from '@/server/sessions/sessions';

/** Signs in, or sets the first password; a plain form, so that it needs no JavaScript. */
export async function POST(request: Request): Promise<Response> {
  const form = await request.formData().catch(() => new FormData());
  const field = (name: string): string => {
    const value = form.get(name);
    return typeof value === 'string' ? value : '';
  };
  const next = safePath(field('next'));
  try {
    requireOwnPage(request);
    const { sessions } = runtime();
    const cookie = sessions.hasPassword
      ? await sessions.signIn(field('password'))
      : await sessions.setPassword(field('code'), field('password'));
    return goTo(next, { 'Set-Cookie': sessionCookie(cookie, isSecure(request)) });
  } catch (error) {
    if (!isFailure(error)) throw error;
    return goTo(`/sign-in?${new URLSearchParams({ next, problem: error.message }).toString()}`);
  }
}

const goTo = (location: string, headers: Record<string, string> = {}): Response =>
  new Response(null, { status: 303, headers: { Location: location, ...headers } });

function isSecure(request: Request): boolean {
  return (request.headers.get('x-forwarded-proto') ?? new URL(request.url).protocol).startsWith('https');
}
