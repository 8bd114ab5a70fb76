const segmenter = new Intl.Segmenter(undefined, { granularity: "grapheme" });

/** The grapheme clusters of a text, the unit in which the engine counts. */
export const graphemes = (text: string): string[] => Array.from(segmenter.segment(text), (part) => part.segment);

/** How many UTF-16 units the last `count` graphemes of a text take. */
export function unitsOfLast(text: string, count: number): number {
  if (count <= 0) return 0;
  return graphemes(text)
    .slice(-count)
    .reduce((sum, grapheme) => sum + grapheme.length, 0);
}
