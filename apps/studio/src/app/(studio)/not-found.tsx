import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-12">
      <h1 className="mb-3 text-[28px] leading-9">Nothing here</h1>
      <p className="mb-4">
        This address leads to no collection. It may have been deleted, or the name has a slip in it.
      </p>
      <Link href="/" className="link">
        All collections
      </Link>
    </main>
  );
}
