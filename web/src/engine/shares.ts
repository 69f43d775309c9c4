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

  /**
   * Gives what is new to the workers, in the order of the rows: each has rows that lie side by side, since the paper under them is made in
   * pieces that reach over more than one. Whoever has least begins.
   */
  take(items: Weighed[]) {
    const fresh = items.filter((item) => !this.places.has(item.id));
    const order = [...this.loads.keys()].sort((a, b) => (this.loads[a] ?? 0) - (this.loads[b] ?? 0));
    const whole = [...this.loads, ...fresh.map((item) => item.weight)].reduce((sum, w) => sum + w, 0);
    let turn = 0;
    for (const [i, { id, weight }] of fresh.entries()) {
      const place = order[turn] ?? 0;
      this.places.set(id, place);
      this.loads[place] = (this.loads[place] ?? 0) + weight;
      // The next row goes on here if most of it still belongs to this worker's share.
      const next = fresh[i + 1]?.weight ?? 0;
      if (turn + 1 < order.length && (this.loads[place] ?? 0) + next / 2 >= whole / order.length) turn++;
    }
  }

  /** The worker of a gesture; the first for one that nobody was given. */
  of(id: string): number {
    return this.places.get(id) ?? 0;
  }
}
