import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { mayUseStudio } from '@/http/studio-gate';
import { safePath } from '@/http/safe-path';
import { runtime } from '@/server/runtime';
import { buttonLook } from '@/ui/button';
import { YuccaMark } from '@/ui/mark';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Sign in' };

interface Props {
  searchParams: Promise<{ next?: string; problem?: string }>;
}

export default async function SignInPage({ searchParams }: Props) {
  const { next = '/', problem } = await searchParams;
  if (await mayUseStudio()) redirect(safePath(next));
  const { sessions } = runtime();
  sessions.offerCode((text) => void process.stdout.write(text));
  return (
    <Card title={sessions.hasPassword ? 'Sign in to the studio' : 'Set the password of the studio'}>
      <form action="/session" method="post" className="grid gap-4">
        <input type="hidden" name="next" value={safePath(next)} />
        {!sessions.hasPassword && (
          <label>
            <span className="mb-1 block font-medium">Code from the log</span>
            <input name="code" className="field figures" required autoComplete="off" spellCheck={false} />
            <span className="mt-1 block text-soft">Yucca has printed it. It shows that you run this server.</span>
          </label>
        )}
        <label>
          <span className="mb-1 block font-medium">{sessions.hasPassword ? 'Password' : 'New password'}</span>
          <input
            name="password"
            type="password"
            className="field"
            required
            autoComplete={sessions.hasPassword ? 'current-password' : 'new-password'}
          />
          {!sessions.hasPassword && <span className="mt-1 block text-soft">Ten characters or more.</span>}
        </label>
        {problem && (
          <p role="alert" className="text-madder">
            {problem.slice(0, 200)}
          </p>
        )}
        <button type="submit" className={buttonLook('primary') + ' justify-self-start'}>
          {sessions.hasPassword ? 'Sign in' : 'Set password and sign in'}
        </button>
      </form>
    </Card>
  );
}

function Card({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto mt-[14vh] max-w-md rounded-md border border-line bg-raised p-8">
      <h1 className="mb-5 flex items-center gap-2 text-[20px] leading-7">
        <YuccaMark size={24} /> {title}
      </h1>
      {children}
    </main>
  );
}
