import { createElement, type ReactNode } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { FormProvider, useForm } from "react-hook-form";
import { describe, expect, test } from "vitest";
import { entryOf, KindEntry, kindOf, Mistake } from "./entries";

interface Typed {
  readonly name: string;
  readonly unit: string;
  readonly limits: Readonly<Record<string, string>>;
}

const Entry = entryOf<Typed>();

function Form({ values, mistakes = {}, children }: { values: Partial<Typed>; mistakes?: Record<string, string>; children?: ReactNode }) {
  const root = Object.fromEntries(Object.entries(mistakes).map(([key, message]) => [key, { message }]));
  const form = useForm<Typed>({ defaultValues: values as Typed, errors: { root } as never });
  return createElement(FormProvider, form as never, children);
}
const html = (values: Partial<Typed>, child: ReactNode, mistakes?: Record<string, string>) =>
  renderToStaticMarkup(createElement(Form, { values, mistakes }, child));

describe("entries of a form", () => {
  test("show what is in the form, wherever in it they stand, and their preset where nothing is", () => {
    expect(html({ name: "drag" }, createElement(Entry, { name: "name", label: "Name" }))).toContain('value="drag"');
    expect(html({ limits: { q1: "5 %" } }, createElement(Entry, { name: "limits.q1", label: "Limit" }))).toContain('value="5 %"');
    expect(html({ limits: {} }, createElement(Entry, { name: "limits.q2", label: "Limit", preset: "2 %" }))).toContain('value="2 %"');
  });
  test("have the mistake the server tells of them below, by its name for them", () => {
    const entry = createElement(Entry, { name: "limits.q1", label: "Limit", mistake: "limit-q1" });
    const told = html({ limits: { q1: "much" } }, entry, { "limit-q1": "A limit is a percentage." });
    expect(told).toContain('aria-invalid="true"');
    expect(told).toMatch(/<p id="([^"]+)-m" class="mistake">A limit is a percentage\.<\/p>/);
    expect(html({ limits: { q1: "much" } }, entry, { "limit-q2": "Another's." })).not.toContain("mistake");
  });
  test("a mistake of several entries together is shown where it is placed", () => {
    expect(html({}, createElement(Mistake, { of: "parameters", className: "mt-2" }), { parameters: "These do not go together." })).toBe(
      '<p class="mistake mt-2">These do not go together.</p>',
    );
    expect(html({}, createElement(Mistake, { of: "parameters" }))).toBe("");
  });
});

describe("the kind of a quantity", () => {
  test("is proposed from its name until a person chooses", () => {
    expect(kindOf({ name: "lift" })).toBe("cross-force");
    expect(kindOf({ name: "lift", kind: "plain" })).toBe("plain");
    expect(html({ name: "sealing efficiency" }, createElement(KindEntry, {}))).toMatch(/<option value="efficiency" selected="">/);
    expect(html({ name: "drag" }, createElement(KindEntry, {}))).toMatch(/<option value="plain" selected="">/);
  });
});
