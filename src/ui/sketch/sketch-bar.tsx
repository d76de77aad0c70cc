"use client";
import type { Sketch } from "@/core/sketch";
import { counted } from "@/core/words";
import { Button, Choice } from "../controls/controls";
import { FileBar } from "./file-bar";
import type { HalfDrawn } from "./half-drawn";
import { PickedBar } from "./picked-bar";
import { ToolSettings } from "./tool-settings";
import { CHANGE_TOOLS } from "./tools/change-tools";
import { DRAW_FAMILIES, DRAW_TOOLS, type DrawFamily, familyOf, type Sizes } from "./tools/draw-tools";
import type { Settings } from "./tools/settings";
import { TypedSizes } from "./typed-sizes";
import type { OpenSketch } from "./use-sketch";

interface Props {
  ref: React.Ref<HTMLElement>;
  /** At how many places its outlines are open. */
  openEnds: number;
  open: OpenSketch;
  tool: string;
  picked: readonly string[];
  drawing: HalfDrawn | null;
  settings: Settings;
  boxTakes: "inside" | "touched";
  canPaste: boolean;
  trouble: string | null;
  onTool(tool: string): void;
  onBrought(sketch: Sketch): void;
  onTrouble(message: string | null): void;
  onSettings(settings: Settings): void;
  onBoxTakes(takes: "inside" | "touched"): void;
  onPut(sketch: Sketch): boolean;
  onTakeOut(): void;
  onCopy(): void;
  onPaste(): void;
  onFinish(): void;
  onSizes(sizes: Sizes): void;
}

/** The tools of a sketch, what fits what is picked, and how it stands. */
export function SketchBar({
  ref,
  open,
  openEnds,
  tool,
  picked,
  drawing,
  settings,
  trouble,
  onTool,
  onSettings,
  onPut,
  ...rest
}: Props) {
  const { sketch, state } = open;
  const family = familyOf(tool);
  const drawTool = DRAW_TOOLS[tool];
  const changeTool = CHANGE_TOOLS[tool];
  const ways = family ? Object.entries(DRAW_FAMILIES[family].ways) : [];
  const needs = drawTool?.settings ?? changeTool?.settings ?? [];
  return (
    <section ref={ref} aria-label="Sketch" className="pointer-events-none absolute inset-0 z-10">
      <div
        data-covers="left"
        className="pointer-events-auto absolute top-2 left-2 flex max-h-[calc(100%-3rem)] w-34 flex-col gap-1.5 overflow-auto rounded border border-line bg-sheet/95 p-1.5"
      >
        <Choice<string>
          hideLabel
          small
          column
          label="Pick"
          value={tool}
          options={[{ value: "select", label: "Pick and drag" }]}
          onChange={onTool}
        />
        <Choice<string>
          hideLabel
          small
          column
          label="HalfDrawn tool"
          value={family ?? ""}
          options={(Object.keys(DRAW_FAMILIES) as DrawFamily[]).map((key) => ({
            value: key,
            label: DRAW_FAMILIES[key].label,
          }))}
          onChange={(next) => onTool(Object.keys(DRAW_FAMILIES[next as DrawFamily].ways)[0]!)}
        />
        <Choice<string>
          hideLabel
          small
          column
          label="Changing tool"
          value={changeTool ? tool : ""}
          options={Object.entries(CHANGE_TOOLS).map(([value, { label }]) => ({ value, label }))}
          onChange={onTool}
        />
      </div>
      <div className="pointer-events-auto absolute top-2 left-38 flex max-w-[min(34rem,calc(100%-24.5rem))] flex-col gap-1.5 rounded border border-line bg-sheet/95 p-1.5">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <p role="status" className="text-[0.8125rem] text-soft">
            {sketch.entities.length === 0
              ? "nothing drawn yet"
              : state === null
                ? "cannot be solved"
                : state.degrees === 0
                  ? "nothing can move"
                  : `can still move ${counted(state.degrees, "way")}`}
            {openEnds > 0 ? `, open at ${counted(openEnds, "place")}` : ""}
          </p>
          {tool === "select" ? (
            <div className="flex items-center gap-1.5 text-[0.8125rem] text-soft">
              A box takes
              <Choice<"inside" | "touched">
                hideLabel
                small
                label="A box takes"
                value={rest.boxTakes}
                options={[
                  { value: "inside", label: "what lies in it" },
                  { value: "touched", label: "what it touches" },
                ]}
                onChange={rest.onBoxTakes}
              />
            </div>
          ) : null}
          {rest.canPaste && tool === "select" ? (
            <Button small onClick={rest.onPaste}>
              Paste
            </Button>
          ) : null}
        </div>
        {ways.length > 1 || needs.length > 0 ? (
          <div className="flex flex-wrap items-center gap-2">
            {ways.length > 1 ? (
              <Choice<string>
                hideLabel
                small
                label="Way of drawing"
                value={tool}
                options={ways.map(([value, { label }]) => ({ value, label }))}
                onChange={onTool}
              />
            ) : null}
            {needs.length > 0 ? (
              <ToolSettings key={tool} needs={needs} settings={settings} onChange={onSettings} />
            ) : null}
          </div>
        ) : null}
        {drawTool || changeTool ? (
          <p className="text-[0.8125rem] text-soft">
            {changeTool?.click ??
              `Click ${drawTool!.clicks[Math.min(drawing?.stops.length ?? 0, drawTool!.clicks.length - 1)]}.`}{" "}
            {drawTool ? "Shift holds nothing; Escape lays the tool down." : null}
          </p>
        ) : null}
        {drawing && drawTool?.many && drawing.stops.length >= drawTool.many.least ? (
          <div>
            <Button small onClick={rest.onFinish}>
              Finish it here
            </Button>
          </div>
        ) : null}
        {drawing && drawTool?.typed && drawing.stops.length === drawTool.typed.after ? (
          <TypedSizes key={tool} fields={drawTool.typed.fields} onFinish={rest.onSizes} />
        ) : null}
        {tool === "select" ? (
          <PickedBar open={open} picked={picked} onPut={onPut} onTakeOut={rest.onTakeOut} onCopy={rest.onCopy} />
        ) : null}
        {tool === "select" && picked.length === 0 ? (
          <FileBar sketch={sketch} onPut={onPut} onBrought={rest.onBrought} onTrouble={rest.onTrouble} />
        ) : null}
        {(state?.conflicts ?? []).map(({ message }) => (
          <p key={message} className="text-[0.8125rem] text-warn">
            {message}
          </p>
        ))}
        {trouble ? (
          <p role="alert" className="text-[0.8125rem] text-bad">
            {trouble}
          </p>
        ) : null}
      </div>
    </section>
  );
}
