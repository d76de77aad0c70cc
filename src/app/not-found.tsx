import Link from "next/link";

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-xl font-semibold">There is no such page or job</h1>
      <p className="mt-2 text-soft">The job may have been deleted, or the address is mistyped.</p>
      <Link className="mt-4 inline-block font-medium text-pick underline" href="/">
        All jobs
      </Link>
    </main>
  );
}
