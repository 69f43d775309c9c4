/** Which worker runs which gesture: the same one always, since the paper under a row and its strokes stay there. */

export interface Weighed {
  id: string;
  /** Expected work, in any unit. */
  weight: number;
}

export class Shares {
  private places = new Map<string, number>();
  private loads: number[];

  constructor(workers: number) {
    this.loads = new Array<number>(workers).fill(0);
  }

  /** Gives what is new to whoever has least, heaviest first. */
  take(items: Weighed[]) {
    const fresh = items.filter((item) => !this.places.has(item.id)).sort((a, b) => b.weight - a.weight);
    for (const { id, weight } of fresh) {
      const place = this.loads.indexOf(Math.min(...this.loads));
      this.places.set(id, place);
      this.loads[place] = (this.loads[place] ?? 0) + weight;
    }
  }

  /** The worker of a gesture; the first for one that nobody was given. */
  of(id: string): number {
    return this.places.get(id) ?? 0;
  }
}
