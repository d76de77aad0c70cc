import { kernelHeapBytes } from "../../kernel";
import { lib } from "../../kernel/library/library";

const BLOCK = 256 * 1024;

interface Memory {
  ___libc_malloc(bytes: number): number;
  _emscripten_builtin_free(address: number): void;
}

/** How near the end of its memory the library takes blocks: it sorts them into stretches of a few megabytes. */
const END = 6 * 1024 * 1024;

/**
 * Takes nearly all the memory that the library has to spare, but for some megabytes: it grows by leaps of tens of them, between
 * which nothing of what stays behind would show.
 * @param room bytes that stay free, for what is needed only while something is done.
 * @returns gives it back.
 */
export function tighten(room: number): () => void {
  const memory = lib() as unknown as Memory;
  const taken: number[] = [];
  const spared = memory.___libc_malloc(room);
  for (let end = 0; kernelHeapBytes() - end > END && taken.length < 2000; ) {
    const address = memory.___libc_malloc(BLOCK);
    taken.push(address);
    end = address + BLOCK;
  }
  memory._emscripten_builtin_free(spared);
  return () => {
    for (const address of taken.splice(0)) memory._emscripten_builtin_free(address);
  };
}
