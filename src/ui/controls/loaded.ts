import { SeamError } from "@/core/errors";

/**
 * What a page fetches only when it is needed, so that every page is there sooner.
 * @throws SeamError "not-loaded" where the server does not answer.
 */
export async function loaded<T>(load: () => Promise<T>): Promise<T> {
  try {
    return await load();
  } catch {
    throw new SeamError({
      code: "not-loaded",
      message: "What this needs could not be fetched. Look whether the server runs, then try again.",
    });
  }
}
