import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { database } from "@/server/db/client";
import { HttpProblem } from "@/server/http/problem";
import { readJob } from "@/server/jobs/service";
import { Workspace } from "@/ui/workspace/workspace";

export const dynamic = "force-dynamic";

type Props = { params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await load((await params).id)).document.name };
}

export default async function Page({ params }: Props) {
  return <Workspace initial={await load((await params).id)} leanEngine={process.env.ENGINE === "lean"} />;
}

async function load(id: string) {
  try {
    return await readJob(await database(), id);
  } catch (cause) {
    if (cause instanceof HttpProblem && cause.status === 404) notFound();
    throw cause;
  }
}
