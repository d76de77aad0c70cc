/** A STEP file of one block as another program might write it: other units, other record order, other names. */
export interface BlockFile {
  /** In the file's unit. */
  size: [number, number, number];
  unit?: "mm" | "inch" | "metre";
  product?: string;
  body?: string;
  /** Records from last to first, with numbers that have gaps. */
  reversed?: boolean;
  schema?: string;
}

const UNITS = {
  mm: ["(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.))"],
  metre: ["(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT($,.METRE.))"],
  inch: [
    "(CONVERSION_BASED_UNIT('INCH',@lm)LENGTH_UNIT()NAMED_UNIT(@exp))",
    "LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4),@mm)",
    "(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.))",
    "DIMENSIONAL_EXPONENTS(1.,0.,0.,0.,0.,0.,0.)",
  ],
};

export function blockFile({
  size,
  unit = "mm",
  product = "Block",
  body = "",
  reversed = false,
  schema = "CONFIG_CONTROL_DESIGN",
}: BlockFile): string {
  const records: [string, string][] = [];
  const add = (name: string, text: string) => {
    records.push([name, text]);
    return `@${name}`;
  };
  const real = (value: number) => (Number.isInteger(value) ? `${value}.` : String(value));
  const corner = (i: number) => [i & 1 ? size[0] : 0, i & 2 ? size[1] : 0, i & 4 ? size[2] : 0];
  for (let i = 0; i < 8; i++) {
    add(`p${i}`, `CARTESIAN_POINT('',(${corner(i).map(real).join(",")}))`);
    add(`v${i}`, `VERTEX_POINT('',@p${i})`);
  }
  const AXES = ["1.,0.,0.", "0.,1.,0.", "0.,0.,1.", "-1.,0.,0.", "0.,-1.,0.", "0.,0.,-1."];
  AXES.forEach((axis, i) => {
    add(`d${i}`, `DIRECTION('',(${axis}))`);
  });
  const edges: string[] = [];
  for (let i = 0; i < 8; i++)
    for (let axis = 0; axis < 3; axis++)
      if (!(i & (1 << axis))) {
        const j = i | (1 << axis);
        add(`w${i}${j}`, `VECTOR('',@d${axis},1.)`);
        add(`l${i}${j}`, `LINE('',@p${i},@w${i}${j})`);
        add(`e${i}${j}`, `EDGE_CURVE('',@v${i},@v${j},@l${i}${j},.T.)`);
        edges.push(`${i}${j}`);
      }
  const loops: [number[], number, number][] = [
    [[0, 2, 3, 1], 5, 0],
    [[4, 5, 7, 6], 2, 4],
    [[0, 1, 5, 4], 4, 0],
    [[2, 6, 7, 3], 1, 2],
    [[0, 4, 6, 2], 3, 0],
    [[1, 3, 7, 5], 0, 1],
  ];
  loops.forEach(([corners, normal, origin], f) => {
    const oriented = corners.map((from, k) => {
      const to = corners[(k + 1) % 4]!;
      const forward = from < to;
      return add(
        `o${f}${k}`,
        `ORIENTED_EDGE('',*,*,@e${forward ? `${from}${to}` : `${to}${from}`},${forward ? ".T." : ".F."})`,
      );
    });
    add(`loop${f}`, `EDGE_LOOP('',(${oriented.join(",")}))`);
    add(`bound${f}`, `FACE_OUTER_BOUND('',@loop${f},.T.)`);
    add(`axis${f}`, `AXIS2_PLACEMENT_3D('',@p${origin},@d${normal},@d${(normal + 1) % 3})`);
    add(`plane${f}`, `PLANE('',@axis${f})`);
    add(`face${f}`, `ADVANCED_FACE('',(@bound${f}),@plane${f},.T.)`);
  });
  add("shell", `CLOSED_SHELL('',(${loops.map((_, f) => `@face${f}`).join(",")}))`);
  add("brep", `MANIFOLD_SOLID_BREP('${body}',@shell)`);
  add("place", "AXIS2_PLACEMENT_3D('',@p0,@d2,@d0)");
  const units = UNITS[unit];
  add("length", units[0]!);
  if (units[1]) add("lm", units[1]);
  if (units[2]) add("mm", units[2]);
  if (units[3]) add("exp", units[3]);
  add("angle", "(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.))");
  add("solid", "(NAMED_UNIT(*)SI_UNIT($,.STERADIAN.)SOLID_ANGLE_UNIT())");
  add("fuzz", "UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-6),@length,'distance_accuracy_value','')");
  add(
    "context",
    "(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((@fuzz))GLOBAL_UNIT_ASSIGNED_CONTEXT((@length,@angle,@solid))REPRESENTATION_CONTEXT('',''))",
  );
  add("representation", "ADVANCED_BREP_SHAPE_REPRESENTATION('',(@place,@brep),@context)");
  add("application", "APPLICATION_CONTEXT('configuration controlled 3d designs')");
  add("mechanical", "PRODUCT_CONTEXT('',@application,'mechanical')");
  add("product", `PRODUCT('${product}','${product}','',(@mechanical))`);
  add("formation", "PRODUCT_DEFINITION_FORMATION('','',@product)");
  add("definitionContext", "PRODUCT_DEFINITION_CONTEXT('part definition',@application,'design')");
  add("definition", "PRODUCT_DEFINITION('design','',@formation,@definitionContext)");
  add("shape", "PRODUCT_DEFINITION_SHAPE('','',@definition)");
  add("link", "SHAPE_DEFINITION_REPRESENTATION(@shape,@representation)");

  const numbers = new Map(
    records.map(([name], i) => [name, reversed ? 10 + 7 * (records.length - i) : i + 1] as const),
  );
  const lines = records.map(
    ([name, text]) =>
      `#${numbers.get(name)}=${text.replace(/@(\w+)/g, (_all, other: string) => `#${numbers.get(other)}`)};`,
  );
  if (reversed) lines.reverse();
  return [
    "ISO-10303-21;",
    "HEADER;",
    "/* written by hand for a test; a ';' and a ' in a comment must not matter */",
    "FILE_DESCRIPTION(('a block'),'2;1');",
    "FILE_NAME('block.step','2026-01-01T00:00:00',(''),(''),'','','');",
    `FILE_SCHEMA(('${schema}'));`,
    "ENDSEC;",
    "DATA;",
    ...lines,
    "ENDSEC;",
    "END-ISO-10303-21;",
    "",
  ].join("\r\n");
}
