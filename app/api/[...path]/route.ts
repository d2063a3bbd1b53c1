import { dispatch } from "@/server/http/dispatch";

export const dynamic = "force-dynamic";

const handle = async (request: Request, { params }: { params: Promise<{ path: string[] }> }) => dispatch(request, (await params).path);

export { handle as DELETE, handle as GET, handle as POST, handle as PUT };
