/** The triangles of one face, and the segments of the edges round it as its wires use them. */
export interface Patch {
  /** Whether the face that it was made for lies as its surface does. A face that lies the other way round has the same triangles, turned. */
  forward: boolean;
  positions: Float32Array;
  normals: Float32Array;
  /** Into the patch's own vertices. */
  indices: Uint32Array;
  lines: Float32Array[];
}
