import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl px-6 py-24">
      <h1 className="font-serif text-3xl">There is nothing here</h1>
      <p className="mt-3">
        The project, sound or page at this address is not there, or not any more.{' '}
        <Link className="link link-primary" href="/">
          Go to the first project
        </Link>
      </p>
    </main>
  );
}
