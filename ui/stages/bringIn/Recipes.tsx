"use client";

import { call } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { notify } from "../../shell/notify";

/** Ways of reading files that were kept, each to be forgotten; nothing while there is none. */
export function Recipes() {
  const { data: recipes = [], refetch } = useAsked("GET /recipes", {});
  const forget = async ({ id, name }: { id: string; name: string }) => {
    await call("DELETE /recipes/{id}", { at: { id } });
    void refetch();
    const undo = () => void call("POST /recipes/{id}/restore", { at: { id } }).then(() => refetch());
    notify(`The recipe ${name} was forgotten.`, { action: { label: "Undo", onClick: undo } });
  };
  if (!recipes.length) return null;
  return (
    <p className="mt-3 text-[12px] text-ink-2">
      Recipes kept:{" "}
      {recipes.map((r) => (
        <span key={r.id} className="mr-3">
          {r.name}{" "}
          <ConfirmButton
            className="link text-[11.5px] text-ink-3"
            label={`Forget the recipe ${r.name}`}
            question={`Forget the recipe ${r.name}?`}
            text="Runs that were brought in by it stay as they are. You can undo this for a few seconds."
            action="Forget"
            onConfirm={() => void forget(r)}
          >
            forget
          </ConfirmButton>
        </span>
      ))}
    </p>
  );
}
