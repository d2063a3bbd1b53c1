"use client";

import { useRef, useState } from "react";
import { type Answer, call, Refused } from "../api/call";
import { uploaded } from "../api/upload";

export type PackView = Answer<"POST /packs/check">;

export type PackState =
  | { readonly kind: "none" }
  | { readonly kind: "sending"; readonly name: string }
  | { readonly kind: "checking"; readonly name: string; readonly hash: string }
  | { readonly kind: "refused"; readonly name: string; readonly sentence: string }
  | { readonly kind: "checked"; readonly name: string; readonly hash: string; readonly view: PackView };

/** A pack on its way from a file to what came of its check; a later file takes its place. */
export function usePack() {
  const [state, setState] = useState<PackState>({ kind: "none" });
  const turn = useRef(0);
  const under = useRef<string | undefined>(undefined);
  const giveUp = () => {
    turn.current++;
    if (under.current) void call("DELETE /packs/{hash}/under-way", { at: { hash: under.current } }).catch(() => undefined);
    under.current = undefined;
    setState({ kind: "none" });
  };
  const choose = async (file: File) => {
    giveUp();
    const mine = ++turn.current;
    const set = (next: PackState) => {
      if (turn.current === mine) setState(next);
    };
    const { name } = file;
    set({ kind: "sending", name });
    try {
      const hash = await uploaded(file);
      if (turn.current !== mine) return;
      under.current = hash;
      set({ kind: "checking", name, hash });
      set({ kind: "checked", name, hash, view: await call("POST /packs/check", { input: { hash } }) });
    } catch (error) {
      set({ kind: "refused", name, sentence: error instanceof Refused ? error.message : String(error) });
    } finally {
      if (turn.current === mine) under.current = undefined;
    }
  };
  return { state, choose, giveUp };
}
