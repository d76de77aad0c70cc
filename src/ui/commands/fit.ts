/** Letters alone, without marks over them: `Für` is found by `fur`. */
const plain = (text: string) => text.toLowerCase().normalize("NFD").replace(/\p{M}/gu, "");

/**
 * How well what is typed fits a name and the line about it, 0 to 1: each typed word has to be there. The beginning of the name is
 * best, then of a word in it, then anywhere in it, then the beginning of a word of the line.
 */
export function fitOf(typed: string, label: string, line: string): number {
  const [name, about] = [plain(label), plain(line)];
  const words = plain(typed).split(/\s+/).filter(Boolean);
  if (words.length === 0) return 1;
  const each = words.map((word) => {
    if (name === word) return 1;
    if (name.startsWith(word)) return 0.9;
    if (beginsWord(name, word)) return 0.7;
    if (name.includes(word)) return 0.5;
    return beginsWord(about, word) ? 0.2 : 0;
  });
  return each.includes(0) ? 0 : each.reduce<number>((sum, one) => sum + one, 0) / each.length;
}

function beginsWord(text: string, word: string): boolean {
  for (let at = text.indexOf(word); at >= 0; at = text.indexOf(word, at + 1))
    if (at === 0 || !/[\p{L}\p{N}]/u.test(text[at - 1]!)) return true;
  return false;
}
