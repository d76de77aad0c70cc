import {
  Color,
  DoubleSide,
  LineBasicMaterial,
  type Material,
  MeshStandardMaterial,
  type Plane,
  PointsMaterial,
} from "three";
import { LineMaterial } from "three/addons/lines/LineMaterial.js";
import type { Band } from "@/core/check";
import { type ViewColours, viewColours } from "./palette";
import { FAULT } from "./scene-marks";
import { MOST_BANDS, TONES } from "./tones";

/** How a thing is drawn. */
export type DrawnAs = "body" | "cutter" | "ghost" | "clear";

export interface Style {
  look: DrawnAs;
  colour: string | null;
  hovered: boolean;
  picked: boolean;
}

/** What a body's faces are coloured with: of its look, its own colour, and whether it is picked or pointed at. */
export interface Tint {
  colour: Color;
  opacity: number;
}

/** As many ways of drawing faces are kept; beyond it those that nothing has are given up. */
const FACES_KEPT = 64;

/**
 * What bodies are drawn with, shared: those that look alike have one material. With hundreds of pieces the graphics card is
 * asked for a change of colours a few times in a picture, not once for each piece.
 */
export class ViewMaterials {
  private colours: ViewColours = viewColours(false);
  private clip: Plane[] = [];
  private readonly faces = new Map<string, MeshStandardMaterial>();
  private readonly scales = new Map<string, MeshStandardMaterial>();
  private readonly edges = new Map<DrawnAs, LineBasicMaterial>();
  private readonly shared = new Map<DrawnAs, MeshStandardMaterial>();
  /** Bold lines where pieces meet. */
  readonly seam = new LineMaterial({ linewidth: 3 });
  /** Faces, edges and corners that are lit. */
  readonly lit = new MeshStandardMaterial({
    side: DoubleSide,
    roughness: 1,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -1,
  });
  readonly litEdge = new LineMaterial({ linewidth: 5, depthTest: false, transparent: true });
  readonly fault = new LineMaterial({
    linewidth: 4,
    depthTest: false,
    transparent: true,
    dashed: true,
    dashSize: 3,
    gapSize: 1.5,
  });
  readonly litCorner = new PointsMaterial({ size: 11, sizeAttenuation: false, depthTest: false, transparent: true });

  /** The colours of the view and where it is cut open, for all that is drawn from here on. */
  set(colours: ViewColours, clip: Plane[]): void {
    if (colours !== this.colours) {
      this.giveUp([...this.faces]);
      for (const material of this.scales.values()) material.dispose();
      this.scales.clear();
    }
    this.colours = colours;
    this.clip = clip;
    this.seam.color.set(colours.seam);
    this.fault.color.set(FAULT);
    for (const material of [this.lit, this.litEdge, this.litCorner]) material.color.set(colours.pick);
    for (const material of this.edges.values()) material.color.set(colours.edge);
    for (const material of [
      ...this.faces.values(),
      ...this.scales.values(),
      ...this.shared.values(),
      ...this.edges.values(),
      this.lit,
      this.seam,
    ])
      material.clippingPlanes = clip;
  }

  tint({ look, colour, hovered, picked }: Style): Tint {
    const tint = new Color(colour ?? (look === "cutter" ? this.colours.cutter : this.colours.body));
    if (picked) tint.lerp(new Color(this.colours.pick), 0.6);
    else if (hovered) tint.lerp(new Color(this.colours.pick), 0.35);
    const opacity = look === "ghost" ? (hovered ? 0.4 : 0.13) : look === "cutter" ? 0.6 : look === "clear" ? 0.38 : 1;
    return { colour: tint, opacity };
  }

  /** For the faces of one body. */
  face(style: Style): MeshStandardMaterial {
    const { look, colour, hovered, picked } = style;
    const key = `${look} ${colour} ${hovered} ${picked}`;
    let material = this.faces.get(key);
    if (!material) {
      material = faceMaterial(look);
      const tint = this.tint(style);
      material.color.copy(tint.colour);
      material.opacity = tint.opacity;
      // Where it lies on what is behind it, the one that is seen through is in front all over.
      if (look === "clear")
        Object.assign(material, { polygonOffset: true, polygonOffsetFactor: -1, polygonOffsetUnits: -1 });
      material.clippingPlanes = this.clip;
      this.faces.set(key, material);
    }
    return material;
  }

  /** For the faces of many bodies, whose corners have the tints. */
  together(look: DrawnAs): MeshStandardMaterial {
    let material = this.shared.get(look);
    if (!material) {
      material = faceMaterial(look);
      material.vertexColors = true;
      material.clippingPlanes = this.clip;
      this.shared.set(look, material);
    }
    return material;
  }

  edge(look: DrawnAs): LineBasicMaterial {
    let material = this.edges.get(look);
    if (!material) {
      material = new LineBasicMaterial({
        transparent: true,
        color: this.colours.edge,
        opacity: look === "ghost" ? 0.28 : look === "cutter" ? 0.7 : 0.9,
        clippingPlanes: this.clip,
      });
      this.edges.set(look, material);
    }
    return material;
  }

  /** What a body is drawn with whose corners have values of a scale. */
  painted(bands: readonly Band[]): MeshStandardMaterial {
    const key = JSON.stringify(bands);
    let material = this.scales.get(key);
    if (!material) {
      for (const old of this.scales.values()) old.dispose();
      this.scales.clear();
      material = scaleMaterial(bands, this.colours === viewColours(true));
      material.clippingPlanes = this.clip;
      this.scales.set(key, material);
    }
    return material;
  }

  /** Gives up what nothing is drawn with any more, when there is much of it. */
  tidy(used: () => ReadonlySet<Material>): void {
    if (this.faces.size <= FACES_KEPT) return;
    const still = used();
    this.giveUp([...this.faces].filter(([, material]) => !still.has(material)));
  }

  private giveUp(faces: readonly [string, Material][]): void {
    for (const [key, material] of faces) {
      material.dispose();
      this.faces.delete(key);
    }
  }

  resize(width: number, height: number): void {
    this.seam.resolution.set(width, height);
    this.litEdge.resolution.set(width, height);
    this.fault.resolution.set(width, height);
  }

  dispose(): void {
    const all = [
      ...this.faces.values(),
      ...this.scales.values(),
      ...this.shared.values(),
      ...this.edges.values(),
      this.seam,
      this.lit,
      this.litEdge,
      this.fault,
      this.litCorner,
    ];
    for (const material of all) material.dispose();
  }
}

/** Draws each place in the tone of the part of the scale that its value lies in, hatched as that is. */
function scaleMaterial(bands: readonly Band[], dark: boolean): MeshStandardMaterial {
  const material = faceMaterial("body");
  const tones = bands.map(({ tone }) => TONES[tone]);
  const filled = <T>(values: readonly T[], rest: T) => Array.from({ length: MOST_BANDS }, (_, i) => values[i] ?? rest);
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, {
      bandCount: { value: bands.length },
      bandTo: {
        value: filled(
          bands.map(({ to }) => to ?? 1e9),
          1e9,
        ),
      },
      bandTone: {
        value: filled(
          tones.map((tone) => new Color(dark ? tone.dark : tone.light)),
          new Color(),
        ),
      },
      bandHatch: {
        value: filled(
          tones.map(({ hatch }) => hatch),
          0,
        ),
      },
    });
    shader.vertexShader = shader.vertexShader
      .replace("#include <common>", "#include <common>\nattribute float paint;\nvarying float vPaint;")
      .replace("#include <begin_vertex>", "#include <begin_vertex>\nvPaint = paint;");
    shader.fragmentShader = shader.fragmentShader
      .replace(
        "#include <common>",
        `#include <common>
         varying float vPaint;
         uniform int bandCount;
         uniform float bandTo[${MOST_BANDS}];
         uniform vec3 bandTone[${MOST_BANDS}];
         uniform int bandHatch[${MOST_BANDS}];`,
      )
      .replace(
        "#include <color_fragment>",
        `#include <color_fragment>
         int band = bandCount - 1;
         for (int i = 0; i < ${MOST_BANDS}; i++) if (i < bandCount - 1 && vPaint <= bandTo[i]) { band = i; break; }
         vec3 tone = bandTone[band];
         int hatch = bandHatch[band];
         float rising = gl_FragCoord.x + gl_FragCoord.y;
         float falling = gl_FragCoord.x - gl_FragCoord.y;
         bool stroke = (hatch == 1 && fract(rising / 11.0) < 0.2)
           || (hatch == 2 && fract(rising / 6.0) < 0.24)
           || (hatch == 3 && (fract(rising / 8.0) < 0.2 || fract(falling / 8.0) < 0.2))
           || (hatch == 4 && fract(gl_FragCoord.y / 6.0) < 0.24);
         diffuseColor.rgb = stroke ? mix(tone, vec3(dot(tone, vec3(0.333)) > 0.2 ? 0.0 : 1.0), 0.5) : tone;`,
      );
  };
  // Each scale has numbers of its own in its program's uniforms.
  material.customProgramCacheKey = () => "scale";
  return material;
}

function faceMaterial(look: DrawnAs): MeshStandardMaterial {
  const material = new MeshStandardMaterial({
    side: DoubleSide,
    roughness: 0.85,
    metalness: 0.05,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
    transparent: look !== "body",
    depthWrite: look === "body",
  });
  if (look !== "cutter") return material;
  // Cutters are hatched, as a drawing hatches.
  material.onBeforeCompile = (shader) => {
    shader.fragmentShader = shader.fragmentShader.replace(
      "#include <dithering_fragment>",
      `#include <dithering_fragment>
       float band = fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0);
       gl_FragColor.a *= band < 0.22 ? 1.0 : 0.42;`,
    );
  };
  return material;
}
