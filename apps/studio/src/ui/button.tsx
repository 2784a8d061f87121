import clsx from 'clsx';
import type { ComponentProps } from 'react';

type Kind = 'primary' | 'plain' | 'danger';

const LOOKS: Record<Kind, string> = {
  primary: 'border-agave bg-agave text-on-agave hover:opacity-90',
  plain: 'border-field-line bg-raised text-ink hover:bg-sunk',
  danger: 'border-madder bg-raised text-madder hover:bg-sunk',
};

/** The look of a button, for links that act like one. */
export function buttonLook(kind: Kind = 'plain'): string {
  return clsx(
    'inline-flex min-h-8 items-center gap-2 rounded-md border px-3 py-1 font-medium whitespace-nowrap',
    LOOKS[kind],
  );
}

export function Button({ kind = 'plain', className, ...rest }: ComponentProps<'button'> & { kind?: Kind }) {
  return <button type="button" className={clsx(buttonLook(kind), 'disabled:opacity-50', className)} {...rest} />;
}
