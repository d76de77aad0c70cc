import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { preload } from "react-dom";
import { viewKey } from "@/core/evaluate/view-key";
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
  const initial = await load((await params).id);
  const { document } = initial;
  // What the first part shows is on its way before the page's scripts are: it is on screen sooner, and no empty view before it.
  preload(`/api/geometry/${viewKey(document, document.parts[0]!)}`, { as: "fetch", crossOrigin: "anonymous" });
  return <Workspace initial={initial} leanEngine={process.env.ENGINE === "lean"} />;
}

async function load(id: string) {
  try {
    return await readJob(await database(), id);
  } catch (cause) {
    if (cause instanceof HttpProblem && cause.status === 404) notFound();
    throw cause;
  }
}
