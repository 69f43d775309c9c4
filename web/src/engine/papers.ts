/**
 * Paper that was made, kept in this browser (IndexedDB): the next visit makes none of it again. Each worker keeps its own, since
 * each makes what lies under its own strips. Only the program that made it reads it.
 */

import { createStore, del, get as read, set as write } from "idb-keyval";
import type { Studio } from "./wasm/saltmarsh_browser";

/** Pieces kept of a ground at most (256 KiB each), and grounds a worker. */
const MOST_PIECES = 64;
const MOST_GROUNDS = 6;
/** Paper is stored when nothing more was made for so long, ms. */
const SOON_MS = 1500;

/** What a worker has stored, newest first. */
interface List {
  program: string;
  recipes: string[];
}

const store = createStore("saltmarsh-paper", "grounds");

export class Papers {
  private coming = new Map<string, Promise<void>>();
  /** Grounds that another worker begins. */
  private expected = new Map<string, { given: Promise<void>; give: () => void }>();
  /** Pieces that had been made of a ground when it was stored last. */
  private stored = new Map<string, number>();
  private timers = new Map<string, ReturnType<typeof setTimeout>>();
  private writing = Promise.resolve();

  /** `index`: the worker's; `program`: names the module for good; empty where nothing does, then nothing is kept. */
  constructor(
    private studio: Studio,
    private index: number,
    private program: string,
  ) {}

  /** Resolves when what was stored of a ground (its recipe as JSON), or what another worker begins of it, was given to the studio. */
  async bring(recipe: string): Promise<void> {
    await this.expected.get(recipe)?.given;
    if (!this.program || this.studio.hasGround(recipe)) return;
    const there = this.coming.get(recipe) ?? this.read(recipe).finally(() => this.coming.delete(recipe));
    this.coming.set(recipe, there);
    await there;
  }

  /** Another worker begins a ground: until it is given, nobody here begins it as well. */
  expect(recipe: string) {
    let give = () => {};
    const given = new Promise<void>((done) => (give = done));
    this.expected.set(recipe, { given, give });
  }

  /** Gives what another worker began; null: that failed. */
  give(recipe: string, begun: Uint8Array | null) {
    const expected = this.expected.get(recipe);
    this.expected.delete(recipe);
    try {
      if (begun) this.studio.giveGround(recipe, begun);
    } finally {
      expected?.give();
    }
  }

  private async read(recipe: string) {
    try {
      if ((await this.list()).recipes.includes(recipe)) {
        const bytes = await read<Uint8Array>(this.name(recipe), store);
        if (!bytes || this.studio.hasGround(recipe)) return;
        this.studio.giveGround(recipe, bytes);
        this.stored.delete(recipe);
      }
    } catch {
      // A browser that keeps nothing, or what it kept is spoilt: it is made, and stored anew.
    }
  }

  /** Stores a ground soon, if more of it has been made since. */
  keep(recipe: string) {
    if (!this.program) return;
    clearTimeout(this.timers.get(recipe));
    this.timers.set(
      recipe,
      setTimeout(() => {
        this.timers.delete(recipe);
        this.writing = this.writing.then(() => this.write(recipe));
      }, SOON_MS),
    );
  }

  private async write(recipe: string) {
    try {
      const made = this.studio.groundMade(recipe);
      if (made <= (this.stored.get(recipe) ?? 0)) return;
      this.stored.set(recipe, made);
      await write(this.name(recipe), this.studio.storedGround(recipe, MOST_PIECES), store);
      const { recipes } = await this.list();
      const now = [recipe, ...recipes.filter((r) => r !== recipe)];
      await write(`list:${this.index}`, { program: this.program, recipes: now.slice(0, MOST_GROUNDS) } satisfies List, store);
      await Promise.all(now.slice(MOST_GROUNDS).map((old) => del(this.name(old), store)));
    } catch {
      // No room, or a browser that keeps nothing: the paper is made anew the next time.
    }
  }

  /** What is stored of this program; what another stored is let go. */
  private async list(): Promise<List> {
    const list = await read<List>(`list:${this.index}`, store);
    if (list?.program === this.program) return list;
    await Promise.all((list?.recipes ?? []).map((old) => del(this.name(old), store)));
    return { program: this.program, recipes: [] };
  }

  private name(recipe: string) {
    return `${this.index}:${recipe}`;
  }
}
