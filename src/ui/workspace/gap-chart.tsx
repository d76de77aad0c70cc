"use client";
import { Chart, Filler, LinearScale, LineElement, PointElement, Tooltip } from "chart.js";
import { Line } from "react-chartjs-2";
import type { GapCourse } from "@/core/check";
import { LENGTH_UNITS, type LengthUnit } from "@/core/units";
import { useTheme } from "./theme";

Chart.register(LinearScale, LineElement, PointElement, Filler, Tooltip);

/** The gap over how far along or round it is measured. The place that is looked at is marked, and chosen by pointing at the chart. */
export default function GapChart({
  course: { places, by },
  unit,
  chosen,
  onChoose,
}: {
  course: GapCourse;
  unit: LengthUnit;
  chosen: number;
  onChoose(index: number): void;
}) {
  // Its colours are those of the page: drawn anew when the theme is another.
  const { dark } = useTheme();
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string) => style.getPropertyValue(`--${name}`).trim();
  const [pick, soft, line, sheet] = ["pick", "soft", "line", "sheet"].map(colour);
  const at = (mm: number) => mm / LENGTH_UNITS[unit]!;
  const font = { family: style.fontFamily, size: 11 };
  const axis = (text: string) => ({
    type: "linear" as const,
    title: { display: true, text, color: soft, font },
    ticks: { color: soft, font, maxTicksLimit: 7 },
    grid: { color: line },
    border: { color: line },
  });
  const along = by === "length" ? at : (degrees: number) => degrees;
  return (
    <div className="h-32" role="img" aria-label="Chart of the gap; its places are told below it">
      <Line
        key={String(dark)}
        data={{
          datasets: [
            {
              data: places.map((place) => ({ x: along(place.along), y: at(place.gap) })),
              borderColor: pick,
              borderWidth: 2,
              backgroundColor: pick,
              pointRadius: places.map((_, i) => (i === chosen ? 5 : 0)),
              pointBackgroundColor: sheet,
              pointBorderWidth: 2,
              pointHoverRadius: 4,
              clip: 8,
            },
          ],
        }}
        options={{
          animation: false,
          maintainAspectRatio: false,
          parsing: false,
          interaction: { mode: "nearest", axis: "x", intersect: false },
          plugins: { tooltip: { enabled: false } },
          scales: {
            x: {
              ...axis(by === "length" ? `Along, ${unit}` : "Round, degrees"),
              min: along(0),
              max: along(by === "length" ? places.at(-1)!.along : 360),
            },
            y: { ...axis(`Gap, ${unit}`), grace: "4%" },
          },
          onHover: (_event, [found]) => {
            if (found && found.index !== chosen) onChoose(found.index);
          },
        }}
      />
    </div>
  );
}
