import { MeshesStage } from "@/ui/stages/meshes/MeshesStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("meshes");
export default stagePage("meshes", MeshesStage);
