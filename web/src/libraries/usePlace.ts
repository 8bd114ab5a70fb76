import { useMemo } from "react";
import { useLibraries } from "../api/queries";
import { choosePlace, placesOf, type SnippetPlace } from "../items/places";

/** A library or folder with the way to it; the first library when none is meant, null when there is none at all. */
export function usePlace(id: number | undefined): SnippetPlace | null {
  const { data } = useLibraries();
  const places = useMemo(() => (data ? placesOf(data) : []), [data]);
  return choosePlace(places, id) ?? null;
}
