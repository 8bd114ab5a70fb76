/** Who wants to be told what, by name. */
export class Listeners<Told> {
  private readonly all = new Map<keyof Told, Set<(told: never) => void>>();

  /** Tells a listener; returns the way to stop it. */
  on<Name extends keyof Told>(name: Name, listener: (told: Told[Name]) => void): () => void {
    const some = this.all.get(name) ?? new Set();
    this.all.set(name, some);
    some.add(listener);
    return () => some.delete(listener);
  }

  tell<Name extends keyof Told>(name: Name, told: Told[Name]): void {
    for (const listener of this.all.get(name) ?? []) (listener as (told: Told[Name]) => void)(told);
  }
}
