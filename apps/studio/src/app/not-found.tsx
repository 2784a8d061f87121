import Link from 'next/link';
import { YuccaMark } from '@/ui/mark';

/** For addresses at which there is nothing, of the studio or of a search page. */
export default function NotFound() {
  return (
    <main className="mx-auto mt-[14vh] max-w-md rounded-md border border-line bg-raised p-8">
      <h1 className="mb-5 flex items-center gap-2 text-[20px] leading-7">
        <YuccaMark size={24} /> There is nothing here
      </h1>
      <p>
        The address may be misspelt, or what was here is gone.{' '}
        <Link href="/" className="text-agave hover:underline">
          Start again
        </Link>
      </p>
    </main>
  );
}
