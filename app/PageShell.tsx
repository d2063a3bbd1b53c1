import type { ReactNode } from "react";
import type { Store } from "@/server/db/store";
import { currentProgramme } from "@/server/repositories/programmes";
import { Keys } from "@/ui/shell/Keys";
import { TopBar } from "@/ui/shell/TopBar";
import { places, plate } from "./pageData";

/** Plate, keys and ground of every page outside a case. */
export async function PageShell({ opened, children }: { opened: Store; children: ReactNode }) {
  return (
    <div className="flex min-h-screen min-w-[1000px] flex-col bg-sheet">
      <TopBar programme={(await currentProgramme(opened.db))?.name ?? ""} {...(await plate(opened))}>
        <Keys places={places()} />
      </TopBar>
      {children}
    </div>
  );
}
