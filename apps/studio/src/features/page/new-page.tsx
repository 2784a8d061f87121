'use client';

import type { Interface } from '@yucca/contract';
import { Popover } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';

/** A name for an address from a title: "Spring offers!" is `spring-offers`. */
export const slugOf = (title: string): string =>
  title
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '')
    .slice(0, 63);

/** Makes another search page over the collection. */
export function NewPage({ collection }: { collection: string }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [title, setTitle] = useState('');
  const [slug, setSlug] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const address = slug ?? slugOf(title);
  const make = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setProblem(null);
    try {
      await api<Interface>('/interfaces', { method: 'POST', json: { slug: address, title, collection } });
      setOpen(false);
      router.push(`/pages/${address}`);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button title="Make another page over this collection">New page …</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="New page"
          className="z-20 w-[340px] rounded-md border border-line bg-paper p-4"
        >
          <form className="grid gap-3" onSubmit={(event) => void make(event)}>
            <label className="grid gap-1">
              Title
              <input
                className="field"
                required
                maxLength={200}
                value={title}
                onChange={(event) => setTitle(event.target.value)}
              />
            </label>
            <label className="grid gap-1">
              Address
              <span className="flex items-center gap-1">
                <span className="figures text-soft">/s/</span>
                <input
                  className="field figures"
                  required
                  pattern="[a-z][a-z0-9\-]{0,62}"
                  title="Small letters, digits and hyphens; a letter first"
                  value={address}
                  onChange={(event) => setSlug(event.target.value)}
                />
              </span>
            </label>
            {problem && (
              <p role="alert" className="text-madder">
                {problem}
              </p>
            )}
            <Button kind="primary" type="submit">
              Make the page
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
