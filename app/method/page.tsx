import { RULE_TEXTS } from "@/core/assessment/rules";
import { store } from "@/server/db/store";
import { PageShell } from "../PageShell";

export const dynamic = "force-dynamic";
export const metadata = { title: "Method" };

export default async function MethodPage() {
  const opened = await store();
  return (
    <PageShell opened={opened}>
      <main id="main" className="max-w-[860px] px-6 py-4">
        <h1>Method</h1>
        <p className="text-[12.5px] text-ink-2">
          Every sentence of the margin names its rule. This is what each rule does, where it comes from, and where it stands in the code. All figures
          on the rule are 95 % figures over the quantity's scale.
        </p>
        {RULE_TEXTS.map((r) => (
          <section key={r.rule} id={r.rule} className="mt-3 border-t border-line pt-2 target:bg-margin">
            <h2 className="font-mono text-[13px]!">{r.rule}</h2>
            <p className="mt-0.5 text-[13px]">{r.text}</p>
            <p className="text-[11.5px] text-ink-3">
              {r.source} · <span className="font-mono">{r.file}</span>
            </p>
          </section>
        ))}
      </main>
    </PageShell>
  );
}
