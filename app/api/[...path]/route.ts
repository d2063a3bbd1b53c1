import { answer } from "@/server/http/router";

export const dynamic = "force-dynamic";

export { answer as DELETE, answer as GET, answer as POST, answer as PUT };
