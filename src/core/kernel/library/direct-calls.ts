/** A method as the binding makes it: by the number of its arguments, then by their types. */
type Method = ((...given: never[]) => unknown) & Record<string, unknown>;

/**
 * Has methods that have one form only called at once. The binding looks up the form of every call by writing down the types of
 * what it is given as text and comparing that, which takes longer than most calls do; nearly all methods have but one form, and
 * which one is called is checked when the program is compiled.
 * Where the binding keeps its forms in another way than was seen, its methods stay as they are.
 * @returns how many methods are called at once now.
 */
export function callDirectly(library: object): number {
  let count = 0;
  for (const type of Object.values(library)) {
    if (typeof type !== "function") continue;
    for (const owner of [type, type.prototype])
      for (const name of Object.getOwnPropertyNames(owner ?? {})) {
        const method = Object.getOwnPropertyDescriptor(owner, name)?.value;
        const form = typeof method === "function" && name !== "constructor" ? onlyForm(method as Method) : null;
        if (!form) continue;
        owner[name] = form;
        count++;
      }
  }
  return count;
}

/** The one function that stands behind a method of the binding; null where there are several, or it is none of the binding's. */
function onlyForm(method: Method): Method | null {
  const byCount = own(method).find(Array.isArray);
  if (!byCount) return null;
  const forms = Object.values(byCount);
  const [form] = forms;
  if (forms.length !== 1 || typeof form !== "function") return null;
  const signatures = own(form as Method).find(Array.isArray);
  if (signatures?.length !== 1) return null;
  const signature = (signatures[0] as unknown[]).join(", ");
  const bySignature = own(form as Method).find((value) => {
    const keys = typeof value === "object" && value !== null && !Array.isArray(value) ? Object.keys(value) : [];
    return keys.length === 1 && keys[0] === signature;
  });
  const found = (bySignature as Record<string, unknown> | undefined)?.[signature];
  return typeof found === "function" ? (found as Method) : null;
}

const own = (method: Method): unknown[] =>
  Object.getOwnPropertyNames(method)
    .filter((key) => key !== "prototype" && key !== "caller" && key !== "arguments")
    .map((key) => method[key]);
