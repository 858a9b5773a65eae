import { useWindowDimensions } from "react-native";

const WIDE_FROM = 900;

/** Room for a list with its detail beside it. */
export const useWide = () => useWindowDimensions().width >= WIDE_FROM;
