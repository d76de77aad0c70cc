import { identityOf } from "../library/identity";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asFace, facesOf, type Shape, shapeKind } from "../library/topology";
import { add, dot, scale, type Vec3 } from "../space/vectors";
import { type FaceIntegrals, faceIntegrals } from "./integrals";
import { readPoint } from "./measure";

type Forms = (FaceIntegrals | null | undefined)[];
const exactForms = new WeakMap<object, Forms>();
const roughForms = new WeakMap<object, Forms>();

/** The closed form of one face of a shape, by place; null where there is none. */
function closedForm(shape: Shape, place: number, rough = false): FaceIntegrals | null {
  const known = rough ? roughForms : exactForms;
  let forms = known.get(identityOf(shape));
  if (!forms) {
    forms = [];
    known.set(identityOf(shape), forms);
  }
  const form = forms[place] === undefined ? faceIntegrals(incidenceOf(shape), place, rough) : forms[place];
  forms[place] = form;
  return form;
}

/**
 * Volume in mm³, from the exact faces, by closed form or integrated to 1e-10. Positive for a solid that is right side out.
 * Where a face can be had by neither (its numbers do not settle, or it is damaged), it is what one fixed integration gives,
 * which always ends: `volumeWithin` says how far off that may be. The library's own adaptive integrations are not asked:
 * they were seen never to end on a flat face that a hyperbola bounds, and to be off by 2e-4 where splines do.
 */
export function volumeOf(shape: Shape): number {
  return (shapeKind(shape) === "solid" ? formVolume(shape) : null) ?? fixedVolume(shape);
}

/** Volume by one fixed Gauss integration: fast, and good to about a thousandth. */
function fixedVolume(shape: Shape): number {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.VolumeProperties(shape, properties, false, false, false);
    return properties.Mass();
  });
}

/** Which way round a solid's skin is: its volume, with free faces as they are seen quickly, which takes a fraction of the time. */
export function facesOut(solid: Shape): boolean {
  return (formVolume(solid, true) ?? volumeOf(solid)) >= 0;
}

/** Volume of a solid by closed forms alone, mm³; null where a face has none. @param rough with free faces as they are seen quickly. */
export function formVolume(shape: Shape, rough = false): number | null {
  const forms = formsOf(shape, incidenceOf(shape).faces.keys(), rough);
  return forms && heldBy(forms, middleOf(forms));
}

/**
 * A solid's skin by closed forms alone: its area and the sum of the areas of its faces, each along its normal, mm², and the volume within,
 * mm³; null where a face has none. The sum is nothing where the skin has no gap and all of it looks to one side.
 */
export function skinSums(shape: Shape): { area: number; normal: Vec3; volume: number } | null {
  const forms = formsOf(shape, incidenceOf(shape).faces.keys(), false);
  return (
    forms && {
      area: forms.reduce((sum, { area }) => sum + area, 0),
      normal: forms.reduce<Vec3>((sum, { normal }) => add(sum, normal), [0, 0, 0]),
      volume: heldBy(forms, middleOf(forms)),
    }
  );
}

/** The closed forms of faces, by place, but for those that bound nothing; null where one has none. */
function formsOf(shape: Shape, places: Iterable<number>, rough: boolean): FaceIntegrals[] | null {
  const { faces } = incidenceOf(shape);
  const forms: FaceIntegrals[] = [];
  for (const place of places) {
    if (!faces[place]!.bounds) continue;
    const form = closedForm(shape, place, rough);
    if (!form) return null;
    forms.push(form);
  }
  return forms;
}

/** The middle of faces, each as it weighs as a skin. */
function middleOf(forms: readonly FaceIntegrals[]): Vec3 {
  let [area, moment]: [number, Vec3] = [0, [0, 0, 0]];
  for (const form of forms) {
    area += form.area;
    moment = add(moment, form.moment);
  }
  return area > 0 ? scale(moment, 1 / area) : moment;
}

/**
 * What faces hold between them and a place, mm³. Faces that round ones bound meet to some 1e-7 mm, not to rounding: what that
 * leaves open counts with its distance from the place, so this has to be amid the faces, wherever in the world they lie.
 */
const heldBy = (forms: readonly FaceIntegrals[], from: Vec3): number =>
  forms.reduce((sum, { flux, normal }) => sum + flux - dot(from, normal), 0) / 3;

/**
 * By how much a solid's volume changed where only some of its faces did, mm³: by the closed forms of those alone, since what
 * all others hold goes out. @param gone the faces of the solid before that are not in the one after, by place.
 * @param fresh those of the one after that were not in the one before. @returns null where one of them has no closed form.
 */
export function volumeChange(
  before: Shape,
  gone: readonly number[],
  after: Shape,
  fresh: readonly number[],
): number | null {
  const [was, is] = [formsOf(before, gone, false), formsOf(after, fresh, false)];
  if (!was || !is) return null;
  const from = middleOf([...was, ...is]);
  return heldBy(is, from) - heldBy(was, from);
}

/** What a face weighs as a skin: its area, mm², and its middle, which need not lie on it. */
export interface FaceMass {
  area: number;
  centre: Vec3;
}

const exactMasses = new WeakMap<object, (FaceMass | undefined)[]>();
const roughMasses = new WeakMap<object, (FaceMass | undefined)[]>();

/** The area and the middle of one face, by place: without those of all the others where that takes time. */
export const faceMass = (shape: Shape, place: number): FaceMass => massBy(exactMasses, shape, place);

/** The same, with free faces as they are seen quickly: good enough to tell places by. */
const roughMass = (shape: Shape, place: number): FaceMass => massBy(roughMasses, shape, place);

function massBy(known: WeakMap<object, (FaceMass | undefined)[]>, shape: Shape, place: number): FaceMass {
  let masses = known.get(identityOf(shape));
  if (!masses) {
    masses = [];
    known.set(identityOf(shape), masses);
  }
  let mass = masses[place];
  if (!mass) {
    const form = closedForm(shape, place, known === roughMasses);
    mass = form ? { area: form.area, centre: scale(form.moment, 1 / form.area) } : fixedMass(facesOf(shape)[place]!);
    masses[place] = mass;
  }
  return mass;
}

/** With one fixed Gauss integration, where there is no closed form. */
function fixedMass(face: Shape): FaceMass {
  return scoped((scope) => {
    const properties = scope.use(new (lib().GProp_GProps)());
    lib().BRepGProp.SurfaceProperties(face, properties, false, false);
    return { area: properties.Mass(), centre: readPoint(scope, properties.CentreOfMass()) };
  });
}

/** Where the middle of one face is, by place. */
export const faceCentre = (shape: Shape, place: number): Vec3 => roughMass(shape, place).centre;

/** Area in mm², from the exact faces. */
export function areaOf(shape: Shape): number {
  return incidenceOf(shape).faces.reduce((sum, _, place) => sum + faceMass(shape, place).area, 0);
}

/** Centre of the surface, a place that does not depend on how a shape was built. */
export function surfaceCentre(shape: Shape): Vec3 {
  return roughSkin(shape).centre;
}

/** Area of the whole skin and its middle, good enough to tell shapes apart by: to a thousandth, and the same every time. */
export function roughSkin(shape: Shape): FaceMass {
  let [area, moment]: [number, Vec3] = [0, [0, 0, 0]];
  incidenceOf(shape).faces.forEach((_, place) => {
    const mass = roughMass(shape, place);
    area += mass.area;
    moment = add(moment, scale(mass.centre, mass.area));
  });
  return { area, centre: scale(moment, 1 / area) };
}

/**
 * Area of one face, to a hundredth or better, by the cheapest way for its kind: on a part of a sphere the adaptive
 * integration takes a third of the time of the fixed one; on other surfaces it is the other way round.
 */
export function roughArea(face: Shape): number {
  return scoped((scope) => {
    const oc = lib();
    const surface = scope.use(new oc.BRepAdaptor_Surface(asFace(scope, face), false));
    const properties = scope.use(new oc.GProp_GProps());
    if ((surface.GetType() as string) === "GeomAbs_Sphere")
      oc.BRepGProp.SurfaceProperties(face, properties, 0.01, false);
    else oc.BRepGProp.SurfaceProperties(face, properties, false, false);
    return properties.Mass();
  });
}
