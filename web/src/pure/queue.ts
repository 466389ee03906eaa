import { Store } from "./store";

/** One thing that happened and that the server does not have yet. `n` is the order in which it was kept on this device, in whatever tab;
 * `refused` is the server's reason where it would not take it. */
export type Queued<E> = { n?: number; batch: string; event: E; refused?: string };

/** Where acts are kept until the server has them: on disk, shared by the tabs of this device. Any of it may fail, and then acts live in
 * this tab alone. */
export type Box<E> = {
  all: () => Promise<Queued<E>[]>;
  keep: (acts: Queued<E>[]) => Promise<void>;
  drop: (ids: string[]) => Promise<void>;
  refuse: (id: string, reason: string) => Promise<void>;
  again: (id: string) => Promise<void>;
  /** Only one tab of this device sends at a time. */
  alone: (work: () => Promise<void>) => Promise<void>;
};

/** What became of a post: the server took it, would not take it and says why, or could not be reached. */
export type Outcome = "taken" | "lost" | { refused: string };

type Given<E> = {
  box: Box<E>;
  post: (batch: string, events: E[]) => Promise<Outcome>;
  /** Wait, and then call; what it returns calls it off. */
  later: (work: () => void, ms: number) => () => void;
};

const AGAIN_MS = 1200;
const MOST_AT_ONCE = 200;

/** What happened, kept until the server has it: each event once, in order, one tab at a time. What cannot be reached is tried again; what
 * is refused is kept and shown, and the rest goes on. */
export class Queue<E extends { id: string }> {
  /** What is kept, and after it what is on its way there. */
  readonly acts = new Store<Queued<E>[]>([]);
  private callOff: () => void = () => {};

  constructor(private given: Given<E>) {}

  /** Take events in, and send them. */
  async send(batch: string, events: E[]): Promise<void> {
    const made = events.map((event) => ({ batch, event }));
    this.acts.set([...this.acts.get(), ...made]);
    try {
      await this.given.box.keep(made);
      await this.look();
    } catch {
      // A full or forbidden database: it is sent from memory.
    }
    await this.flush();
  }

  /** Look at what is kept; what is still being written stays shown. */
  async look(): Promise<void> {
    try {
      const kept = await this.given.box.all();
      const known = new Set(kept.map((a) => a.event.id));
      this.acts.set([...kept, ...this.acts.get().filter((a) => a.n === undefined && !known.has(a.event.id))]);
    } catch {
      // No database here: what waits lives in this tab alone.
    }
  }

  /** Send what waits. */
  async flush(): Promise<void> {
    this.callOff();
    let reached = true;
    await this.given.box.alone(async () => {
      await this.look();
      while (reached) {
        const waiting = this.acts.get().filter((a) => a.refused === undefined);
        const batch = waiting[0]?.batch;
        if (batch === undefined) return;
        reached = await this.deliver(batch, waiting.filter((a) => a.batch === batch).slice(0, MOST_AT_ONCE));
      }
    });
    if (!reached || this.acts.get().some((a) => a.refused === undefined))
      this.callOff = this.given.later(() => this.flush(), AGAIN_MS);
  }

  /** Send a refused act once more. */
  async sendAgain(act: Queued<E>): Promise<void> {
    await this.given.box.again(act.event.id).catch(() => {});
    this.acts.set(this.acts.get().map((a) => (a.event.id === act.event.id ? { ...a, refused: undefined } : a)));
    await this.flush();
  }

  /** Take a refused act away: someone has seen it. */
  async letGo(act: Queued<E>): Promise<void> {
    await this.done([act]);
  }

  /** Events of one batch together, in their order; where that is refused, one by one. False where the server cannot be reached. */
  private async deliver(batch: string, group: Queued<E>[]): Promise<boolean> {
    const outcome = await this.given.post(
      batch,
      group.map((a) => a.event),
    );
    if (outcome === "lost") return false;
    if (outcome === "taken") {
      await this.done(group);
      return true;
    }
    if (group.length === 1) {
      await this.refused(group[0]!, outcome.refused);
      return true;
    }
    for (const one of group) if (!(await this.deliver(batch, [one]))) return false;
    return true;
  }

  private async done(group: Queued<E>[]): Promise<void> {
    const gone = new Set(group.map((a) => a.event.id));
    await this.given.box.drop([...gone]).catch(() => {});
    this.acts.set(this.acts.get().filter((a) => !gone.has(a.event.id)));
  }

  private async refused(act: Queued<E>, reason: string): Promise<void> {
    await this.given.box.refuse(act.event.id, reason).catch(() => {});
    this.acts.set(this.acts.get().map((a) => (a.event.id === act.event.id ? { ...a, refused: reason } : a)));
  }
}
