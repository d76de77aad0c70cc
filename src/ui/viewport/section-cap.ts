import {
  AlwaysStencilFunc,
  BackSide,
  type BufferGeometry,
  Color,
  DecrementWrapStencilOp,
  DoubleSide,
  FrontSide,
  Group,
  IncrementWrapStencilOp,
  Mesh,
  MeshBasicMaterial,
  NotEqualStencilFunc,
  type Plane,
  PlaneGeometry,
  ReplaceStencilOp,
  Vector3,
  type WebGLRenderer,
} from "three";
import { type Hatch, hatchLines } from "./hatch";

/**
 * The cut surface of one body where a plane opens it. The stencil counts the body's back faces against its front faces
 * behind each point of the plane: where they do not balance, the point lies inside, and the cap is drawn there, hatched
 * as a section is. Neighbouring bodies are hatched in opposite directions.
 */
export class SectionCap {
  readonly group = new Group();
  private readonly cap: Mesh<PlaneGeometry, MeshBasicMaterial>;
  private readonly counters: Mesh<BufferGeometry, MeshBasicMaterial>[];

  /** @param place number of the body among those cut, which sets the order of drawing and the hatching. */
  constructor(geometry: BufferGeometry, place: number, plane: Plane, size: number, colour: string, hatch: Hatch) {
    const order = 3 + place;
    this.counters = [BackSide, FrontSide].map((side) => {
      const op = side === BackSide ? IncrementWrapStencilOp : DecrementWrapStencilOp;
      const material = new MeshBasicMaterial({
        side,
        clippingPlanes: [plane],
        depthWrite: false,
        depthTest: false,
        colorWrite: false,
        stencilWrite: true,
        stencilFunc: AlwaysStencilFunc,
        stencilFail: op,
        stencilZFail: op,
        stencilZPass: op,
      });
      const mesh = new Mesh(geometry, material);
      mesh.renderOrder = order + 0.1;
      // Counting is for drawing only: clicks go to the body itself.
      mesh.raycast = () => {};
      return mesh;
    });
    const material = new MeshBasicMaterial({
      color: new Color(colour),
      side: DoubleSide,
      stencilWrite: true,
      stencilRef: 0,
      stencilFunc: NotEqualStencilFunc,
      stencilFail: ReplaceStencilOp,
      stencilZFail: ReplaceStencilOp,
      stencilZPass: ReplaceStencilOp,
    });
    const lines = hatchLines(hatch, place % 2 === 1);
    material.onBeforeCompile = (shader) => {
      shader.fragmentShader = shader.fragmentShader.replace(
        "#include <dithering_fragment>",
        `#include <dithering_fragment>
         if (${lines}) gl_FragColor.rgb *= 0.45;`,
      );
    };
    material.customProgramCacheKey = () => `cap ${lines}`;
    this.cap = new Mesh(new PlaneGeometry(size, size), material);
    this.cap.raycast = () => {};
    plane.coplanarPoint(this.cap.position);
    this.cap.lookAt(this.cap.position.clone().add(new Vector3().copy(plane.normal)));
    this.cap.renderOrder = order + 0.2;
    this.cap.onAfterRender = (renderer) => (renderer as WebGLRenderer).clearStencil();
    this.group.add(...this.counters, this.cap);
  }

  dispose(): void {
    for (const mesh of this.counters) mesh.material.dispose();
    this.cap.geometry.dispose();
    this.cap.material.dispose();
  }
}
