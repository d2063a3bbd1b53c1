import type { Asking } from "../desk/desk.ts";
import type { Told } from "../desk/told.ts";

interface State {
  readonly ending: AbortController;
  told: Told;
}

const held = globalThis as unknown as { tinRulerUnderWay?: Map<string, State> };

function states(): Map<string, State> {
  held.tinRulerUnderWay ??= new Map();
  return held.tinRulerUnderWay;
}

/** Long work of one kind that somebody waits for, by what it is of: how far it is, and how it is given up. */
export class UnderWay {
  constructor(private readonly kind: string) {}

  private key(of: string): string {
    return `${this.kind} ${of}`;
  }

  /** How far it is; nothing where none is under way. */
  told(of: string): Told | undefined {
    return states().get(this.key(of))?.told;
  }

  giveUp(of: string): void {
    states().get(this.key(of))?.ending.abort();
  }

  /**
   * Does the work, which hands on what it is given to whatever it asks of the desk.
   * @param first what it is at before it says anything
   */
  async follow<T>(of: string, first: string, work: (asking: Asking) => Promise<T>): Promise<T> {
    const state: State = { ending: new AbortController(), told: { done: 0, of: 1, what: first } };
    const told = (now: Told) => {
      state.told = now;
    };
    states().set(this.key(of), state);
    try {
      return await work({ told, signal: state.ending.signal });
    } finally {
      states().delete(this.key(of));
    }
  }
}
