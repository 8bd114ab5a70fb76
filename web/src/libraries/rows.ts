import type { FolderNode, LibraryNode, LibraryTree, SnippetNode } from "../api/client";

export type Kind = "library" | "folder" | "snippet";

/** One visible row of the table: a library, folder or snippet with its depth and surroundings. */
export interface Row {
  kind: Kind;
  id: number;
  key: string;
  depth: number;
  name: string;
  version: number;
  libraryId: number;
  /** The folder it lies in. */
  folderId: number | null;
  /** Ids of the items of its kind beside it, itself among them. */
  siblings: number[];
  open: boolean;
  /** Whether it and its library are switched on. */
  active: boolean;
  node: LibraryNode | FolderNode | SnippetNode;
}

export const rowKey = (kind: Kind, id: number): string => `${kind}-${id}`;

/** The rows that show with the given ones closed. */
export function visibleRows(tree: LibraryTree, closed: ReadonlySet<string>): Row[] {
  const rows: Row[] = [];
  const libraryIds = tree.libraries.map((library) => library.id);

  const inside = (
    parent: { folders: FolderNode[]; snippets: SnippetNode[] },
    library: LibraryNode,
    folderId: number | null,
    depth: number,
  ) => {
    const folderIds = parent.folders.map((folder) => folder.id);
    for (const folder of parent.folders) {
      const key = rowKey("folder", folder.id);
      const open = !closed.has(key);
      rows.push({
        kind: "folder",
        key,
        depth,
        open,
        folderId,
        libraryId: library.id,
        siblings: folderIds,
        active: library.enabled,
        node: folder,
        ...pick(folder),
      });
      if (open) inside(folder, library, folder.id, depth + 1);
    }
    const snippetIds = parent.snippets.map((snippet) => snippet.id);
    for (const snippet of parent.snippets)
      rows.push({
        kind: "snippet",
        key: rowKey("snippet", snippet.id),
        depth,
        open: false,
        folderId,
        libraryId: library.id,
        siblings: snippetIds,
        active: library.enabled && snippet.enabled,
        node: snippet,
        ...pick(snippet),
      });
  };

  for (const library of tree.libraries) {
    const key = rowKey("library", library.id);
    const open = !closed.has(key);
    rows.push({
      kind: "library",
      key,
      depth: 0,
      open,
      folderId: null,
      libraryId: library.id,
      siblings: libraryIds,
      active: library.enabled,
      node: library,
      ...pick(library),
    });
    if (open) inside(library, library, null, 1);
  }
  return rows;
}

const pick = ({ id, name, version }: { id: number; name: string; version: number }) => ({ id, name, version });

export const countSnippets = (node: { folders: FolderNode[]; snippets: SnippetNode[] }): number =>
  node.snippets.length + node.folders.reduce((sum, folder) => sum + countSnippets(folder), 0);
