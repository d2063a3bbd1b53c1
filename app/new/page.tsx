import { store } from "@/server/db/store";
import { findProgramme } from "@/server/repositories/cases";
import { NewCase } from "@/ui/NewCase";
import { Keys } from "@/ui/parts/Keys";
import { TopBar } from "@/ui/parts/TopBar";
import { places, plate } from "../pageData";

export const dynamic = "force-dynamic";
export const metadata = { title: "New case" };

export default async function NewCasePage() {
  const opened = await store();
  return (
    <div className="min-h-screen bg-sheet">
      <TopBar programme={(await findProgramme(opened.db))?.name ?? ""} {...(await plate(opened))}>
        <Keys places={await places(opened)} />
      </TopBar>
      <NewCase />
    </div>
  );
}
