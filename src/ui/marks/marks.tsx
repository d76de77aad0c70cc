import type { SVGProps } from "react";
import { ITEM_KINDS, type ItemKindId } from "@/core/items/kinds";
import { shownAs } from "../items";

/** The trade's signs of this product, so that nothing reads by colour alone. All 16 × 16, drawn with the text's colour. */
export type MarkName =
  | "stock"
  | "cutter"
  | "keep"
  | "scrap"
  | "group"
  | "stale"
  | ItemKindId
  | "good"
  | "warned"
  | "failed"
  | "waiting"
  | "suppressed"
  | "held";

const PATHS: Record<Exclude<MarkName, ItemKindId>, React.ReactNode> = {
  // A billet with a sawn end.
  stock: <path d="M2 4.5h9l3 2v5H5l-3-2zM11 4.5v5M2 9.5h9l3 2" />,
  // A blade across a piece.
  cutter: <path d="M2 14 14 2M9.5 2H14v4.5M2 10.5V14h3.5" />,
  // A piece standing on the bench.
  keep: <path d="M1.5 13.5h13M4 13.5v-9h8v9" />,
  // A piece falling into the bin.
  scrap: <path d="M2.5 8v6.5h11V8M5 2l6 4M11 2 5 6" />,
  // Two pieces strapped into one.
  group: <path d="M2 5h5v7H2zM9 5h5v7H9zM7 8.5h2M1 2.5h14" />,
  // A mate that moved away.
  stale: <path d="M2 4h7v8H2zM9 4l5-2v8l-5 2" strokeDasharray="2 1.6" />,
  good: <path d="m3 8.5 3.2 3.5L13 4.5" />,
  warned: <path d="M8 2 14.5 13.5h-13zM8 6.5v3.5M8 11.6v.6" />,
  failed: <path d="M3.5 3.5l9 9M12.5 3.5l-9 9" />,
  waiting: <path d="M4 2h8M4 14h8M5 2c0 4 6 4 6 6s-6 2-6 6M11 2c0 4-6 4-6 6s6 2 6 6" />,
  suppressed: <path d="M2 8h12M4 5.5 2 8l2 2.5M12 5.5 14 8l-2 2.5" strokeDasharray="2.4 1.8" />,
  held: <path d="M5.5 3v10M10.5 3v10" />,
};

const isItemKind = (name: MarkName): name is ItemKindId => name in ITEM_KINDS;

export function Mark({ name, title, ...rest }: { name: MarkName; title?: string } & SVGProps<SVGSVGElement>) {
  return (
    // biome-ignore lint/a11y/noSvgWithoutTitle: without a title it is hidden from readers
    <svg
      width={16}
      height={16}
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.5}
      strokeLinejoin="round"
      strokeLinecap="round"
      role={title ? "img" : undefined}
      aria-hidden={title ? undefined : true}
      {...rest}
    >
      {title ? <title>{title}</title> : null}
      {isItemKind(name) ? <path d={shownAs({ kind: name }).mark} /> : PATHS[name]}
    </svg>
  );
}
