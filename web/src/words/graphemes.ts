const segmenter = new Intl.Segmenter(undefined, { granularity: "grapheme" });

/** The grapheme clusters of a text, the unit in which the engine counts. */
export const graphemes = (text: string): string[] => Array.from(segmenter.segment(text), (part) => part.segment);

/** A text, or its first graphemes and an ellipsis where it has more of them. */
export function shortened(text: string, most: number): string {
  if (text.length <= most) return text;
  const all = graphemes(text.slice(0, most * 32));
  return all.length > most ? `${all.slice(0, most).join("")}…` : text;
}

/** How many UTF-16 units the last `count` graphemes of a text take. */
export function unitsOfLast(text: string, count: number): number {
  if (count <= 0) return 0;
  return graphemes(text)
    .slice(-count)
    .reduce((sum, grapheme) => sum + grapheme.length, 0);
}
