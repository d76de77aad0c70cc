import type { Library } from "./library";

/** An object of the library as the binding hands it out. */
interface Handle {
  delete(): void;
}

interface HandleClass {
  prototype: Handle;
}

/** What of the binding is reached besides its classes. */
interface Internals {
  wasmMemory: WebAssembly.Memory;
  /** Gives a block of memory back, by its address. */
  _emscripten_builtin_free(address: number): void;
}

/**
 * Runs the destructors of the library's classes, which its binding does not: there `delete()` forgets the object, but the
 * destructors that it calls are empty for most classes, so that every shape and every algorithm that was ever made would stay
 * in memory (11 kB of each block, 37 kB of each rounding, measured).
 *
 * What is called instead is what the destructor of the class does:
 * - a shape lets go of its geometry and its place (`Nullify`), and its own memory is given back;
 * - plain values (points, axes, boxes) own nothing but their memory;
 * - algorithms, arrays and readers have a destructor of their own in the table of their virtual functions, which the name that stands
 *   beside that table proves to be of the class (Itanium C++ ABI, 2.5.2 and 2.9.4).
 * Handles of one object share nothing: the binding copies whatever it returns by value or by reference, as a test holds.
 */
export function giveDestructors(library: Library, table: WebAssembly.Table): void {
  const { wasmMemory, _emscripten_builtin_free: free } = library as unknown as Internals;
  const classes = library as unknown as Record<string, HandleClass | undefined>;
  const addressOf = addressReader(new library.gp_Pnt(0, 0, 0));
  // All classes have it from one ancestor: only the binding's own bookkeeping.
  const forget = library.gp_Pnt.prototype.delete;
  const words = () => new Uint32Array(wasmMemory.buffer);
  const bytes = () => new Uint8Array(wasmMemory.buffer);

  /** The destructor that also gives the memory back, in a table of virtual functions; null where it is not that of the class. */
  const virtualDestructor = (functions: number, name: string): number | null => {
    const memory = words();
    if (functions < 8 || functions % 4 !== 0 || functions >> 2 >= memory.length) return null;
    const type = memory[(functions >> 2) - 1]!;
    const text = memory[(type >> 2) + 1];
    if (!type || type % 4 !== 0 || !text) return null;
    return textAt(bytes(), text).startsWith(mangled(name)) ? memory[(functions >> 2) + 1]! : null;
  };

  for (const [name, type] of Object.entries(classes)) {
    if (!type?.prototype || !("delete" in type.prototype)) continue;
    const ancestors = new Set<unknown>();
    for (let of: unknown = type.prototype; of; of = Object.getPrototypeOf(of)) ancestors.add(of);
    const is = (base: string) => ancestors.has(classes[base]?.prototype);
    if (is("TopoDS_Shape"))
      endWith(type, (_address, object) => {
        (object as Handle & { Nullify(): void }).Nullify();
        return free;
      });
    else if (PLAIN.test(name)) endWith(type, () => free);
    else if (VIRTUAL.some(is) || TEMPLATE.test(name)) {
      // Tables of virtual functions stay where they are and as they are: each is looked at once.
      const known = new Map<number, ((object: number) => void) | null>();
      endWith(type, (address) => {
        const functions = words()[address >> 2]!;
        let destructor = known.get(functions);
        if (destructor === undefined) {
          const found = virtualDestructor(functions, name);
          destructor = found === null ? null : (table.get(found) as (object: number) => void);
          known.set(functions, destructor);
        }
        return destructor;
      });
    }
  }

  /** Has `delete()` of a class do what is to be done, and call what `end` gives once the binding has forgotten the object. */
  function endWith(
    type: HandleClass,
    end: (address: number, object: Handle) => ((address: number) => void) | null,
  ): void {
    type.prototype.delete = function (this: Handle) {
      const address = addressOf(this);
      // An object that is deleted already, or shared, is left to the binding, which says so.
      const last = address === null ? null : end(address, this);
      forget.call(this);
      last?.(address!);
    };
  }
}

/** Classes that own nothing but their memory: points, directions, axes, curves in closed form, transformations, boxes, sums. */
const PLAIN = /^(gp_[A-Z]\w*|Bnd_Box|Bnd_Box2d|GProp_GProps)$/;

/** Classes whose destructor is virtual and declared first: algorithms, and readers of files. */
const VIRTUAL = ["BRepBuilderAPI_Command", "XSControl_Reader"];

/** Arrays of numbers and points, whose names here are those of the template with what it is made of. */
const TEMPLATE = /^(NCollection_Array[12])_/;

/** How the name of a class begins in the library. */
function mangled(name: string): string {
  const template = TEMPLATE.exec(name)?.[1];
  return template ? `${template.length}${template}I` : `${name.length}${name}`;
}

/** The binding keeps an object's address in a record under names that change with each of its builds: they are found out. */
function addressReader(sample: Handle): (object: Handle) => number | null {
  const [hidden] = Object.getOwnPropertyNames(sample);
  const record = (object: Handle) => (object as unknown as Record<string, Record<string, unknown>>)[hidden!]!;
  const key = Object.keys(record(sample)).find((name) => typeof record(sample)[name] === "number");
  if (!key)
    throw new Error("The geometry library keeps its objects in another way than was seen: look at kernel/destructors.");
  sample.delete();
  return (object) => {
    const found = record(object);
    const { count } = found as { count?: { value: number } };
    return typeof found[key] === "number" && count?.value === 1 ? found[key] : null;
  };
}

function textAt(bytes: Uint8Array, from: number): string {
  let text = "";
  for (let at = from; bytes[at] && text.length < 200; at++) text += String.fromCharCode(bytes[at]!);
  return text;
}
