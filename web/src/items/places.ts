import type { FolderNode, LibraryTree } from "../api/client";

const lastPlaceKey = "dash-sprout.gather.place";

/** Where the last new snippet went. */
export const rememberedPlace = (): number => Number(localStorage.getItem(lastPlaceKey) ?? NaN);

export const rememberPlace = (id: number): void => localStorage.setItem(lastPlaceKey, `${id}`);

/** A library or folder, with the way that leads there. */
export interface SnippetPlace {
  id: number;
  label: string;
}

/** Every library and folder, in their order. */
export function placesOf(tree: LibraryTree): SnippetPlace[] {
  const inside = (way: string, { id, name, folders }: Pick<FolderNode, "id" | "name" | "folders">): SnippetPlace[] => {
    const label = way === "" ? name : `${way} › ${name}`;
    return [{ id, label }, ...folders.flatMap((folder) => inside(label, folder))];
  };
  return tree.libraries.flatMap((library) => inside("", library));
}

export const choosePlace = (places: readonly SnippetPlace[], id: number | undefined): SnippetPlace | undefined =>
  places.find((other) => other.id === id) ?? places[0];
