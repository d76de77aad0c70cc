import { welded } from "../../../kernel";
import type { OutWriter } from "../declare";
import { bodiesIn } from "../of-kind";
import { trianglesOf } from "../triangles";

/** Writes bodies as OBJ in millimetres: an object for each, corners shared between its faces, counted from 1 through the file. */
export const writeObj: OutWriter = (items, { title, tolerance }) => {
  const bodies = bodiesIn(items);
  const lines = [`# ${plain(title)}`, `# millimetres, within ${tolerance} mm`];
  let first = 1;
  trianglesOf(bodies, tolerance).forEach((mesh, i) => {
    const { corners, triangles } = welded(mesh);
    lines.push(`o ${plain(bodies[i]!.name)}`);
    for (let k = 0; k < corners.length; k += 3)
      lines.push(`v ${[0, 1, 2].map((a) => Number(corners[k + a]!.toPrecision(9))).join(" ")}`);
    for (let t = 0; t < triangles.length; t += 3)
      lines.push(`f ${[0, 1, 2].map((a) => triangles[t + a]! + first).join(" ")}`);
    first += corners.length / 3;
  });
  return new TextEncoder().encode(`${lines.join("\n")}\n`);
};

/** On one line: a name ends where its line does. */
const plain = (text: string): string => text.replace(/\s+/g, " ").trim();
