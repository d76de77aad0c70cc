import Papa from "papaparse";
import { expect, test } from "vitest";
import type { GapCourse } from "@/core/check";
import { csvFile } from "../controls/csv-file";
import { gapTable } from "./gap-table";

const at = (along: number, gap: number): GapCourse["places"][number] => ({
  along,
  gap,
  from: [along, -2, 0],
  to: [along, -2, -gap],
});

test.each([
  [
    "first",
    "length",
    ["Along, mm", "Gap, mm", "X at A, mm", "Y at A, mm", "Z at A, mm", "X at B, mm", "Y at B, mm", "Z at B, mm"],
  ],
  [
    "second",
    "turn",
    ["Round, deg", "Gap, mm", "X at B, mm", "Y at B, mm", "Z at B, mm", "X at A, mm", "Y at A, mm", "Z at A, mm"],
  ],
] as const)("the gap that runs along the %s, by %s, as a file: read back to the last digit", (of, by, columns) => {
  const places = [at(0, 0.1 + 0.2), at(12.5, -1 / 3), at(25, 1e-7)];
  const { fields, data } = gapTable({ by, of, places, least: places[1]!, most: places[0]! });
  const text = new TextDecoder().decode(csvFile(fields, data));
  const read = Papa.parse<string[]>(text.trimEnd(), { delimiter: "," }).data;
  expect(read[0]).toEqual(columns);
  expect(read.slice(1).map((row) => row.map(Number))).toEqual(
    places.map(({ along, gap, from, to }) => [along, gap, ...from, ...to]),
  );
});
