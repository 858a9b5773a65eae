import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Size", async () => (await import("../../features/size/LitresScreen")).LitresScreen, SIZE_NEEDS);
