import type { BufferGeometry, Mesh as ThreeMesh } from "three";
import { OBJLoader } from "three/examples/jsm/loaders/OBJLoader.js";
import { STLLoader } from "three/examples/jsm/loaders/STLLoader.js";
import { beforeAll, describe, expect, test } from "vitest";
import { writeItems } from "@/core/exchange";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { fourBodies, outOptions as options, sixfold } from "@/core/testing/out-bodies";

beforeAll(loadNodeKernel);

function volumeOf(geometry: BufferGeometry): number {
  const { position } = geometry.attributes;
  const at = (i: number) => [position!.getX(i), position!.getY(i), position!.getZ(i)];
  let sum = 0;
  for (let i = 0; i < position!.count; i += 3) sum += sixfold(at(i), at(i + 1), at(i + 2));
  return sum / 6;
}

describe("what is released is read by another reader than ours", () => {
  test("STL: read by another reader, all bodies as one", () => {
    const { out, volumes } = fourBodies();
    const bytes = writeItems("stl", out, options);
    const whole = [...volumes.values()].reduce((sum, volume) => sum + volume);
    const read = volumeOf(new STLLoader().parse(bytes.slice().buffer as ArrayBuffer));
    expect(Math.abs(read / whole - 1)).toBeLessThan(5e-3);
  });

  test("OBJ: read by another reader, each body by its name, sheets too", () => {
    const { out, volumes } = fourBodies();
    const group = new OBJLoader().parse(new TextDecoder().decode(writeItems("obj", out, options)));
    const meshes = group.children as ThreeMesh[];
    expect(meshes.map(({ name }) => name)).toEqual(out.map(({ name }) => name));
    for (const { name, geometry } of meshes) {
      const exact = volumes.get(name);
      if (exact !== undefined) expect(Math.abs(volumeOf(geometry) / exact - 1), name).toBeLessThan(5e-3);
    }
    const sheet = meshes.find(({ name }) => name === "Sheet")!;
    sheet.geometry.computeBoundingBox();
    const { min, max } = sheet.geometry.boundingBox!;
    expect([max.x - min.x, max.y - min.y, max.z - min.z].map((side) => Math.round(side * 1e4) / 1e4).sort()).toEqual([
      0, 25, 30,
    ]);
  });
});
