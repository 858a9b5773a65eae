import { place } from "../ui/place";

export default place("Words", async () => (await import("../features/words/WordsScreen")).WordsScreen);
