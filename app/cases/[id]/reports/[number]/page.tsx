import { notFound } from "next/navigation";
import { z } from "zod";
import { store } from "@/server/db/store";
import { UseCaseError } from "@/server/usecases/failure";
import { readReport, standingOf } from "@/server/usecases/reports";
import { ReportPage } from "@/ui/report/ReportPage";

export const dynamic = "force-dynamic";

export default async function IssuedReport({ params }: { params: Promise<{ id: string; number: string }> }) {
  const { id, number } = await params;
  if (!z.uuid().safeParse(id).success || !/^\d{1,6}$/.test(number)) notFound();
  const opened = await store();
  const { document, row } = await readReport(opened, id, Number(number)).catch((error) => {
    if (error instanceof UseCaseError) notFound();
    throw error;
  });
  return <ReportPage d={document} caseId={id} standing={await standingOf(opened, row)} />;
}
