"use client";

import { Contrast, Moon, Sun } from "lucide-react";
import { useEffect, useState } from "react";
import { type Scheme, schemeAfter, schemeCookie, schemeOf } from "./scheme";

const ICONS = { system: Contrast, light: Sun, dark: Moon } as const;
const WORDS = { system: "as the system says", light: "light", dark: "dark" } as const;

/** Turns the page light, dark, or as the system says; figures that are saved or printed stay on paper. */
export function SchemeButton() {
  const [scheme, setScheme] = useState<Scheme>("system");
  useEffect(() => setScheme(schemeOf(document.documentElement.dataset.scheme)), []);
  const turn = () => {
    const next = schemeAfter(scheme);
    // biome-ignore lint/suspicious/noDocumentCookie: the page is drawn by it on the server, and no store of cookies is everywhere yet
    document.cookie = schemeCookie(next);
    if (next === "system") delete document.documentElement.dataset.scheme;
    else document.documentElement.dataset.scheme = next;
    setScheme(next);
  };
  const Icon = ICONS[scheme];
  const words = `Colours: ${WORDS[scheme]}`;
  return (
    <button type="button" className="flex size-6 items-center justify-center text-head" onClick={turn} title={words} aria-label={words}>
      <Icon size={15} aria-hidden="true" />
    </button>
  );
}
