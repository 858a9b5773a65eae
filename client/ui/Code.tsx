import { useQuery } from "@tanstack/react-query";
import { create } from "qrcode";
import Svg, { Path, Rect } from "react-native-svg";
import { fetchAddresses } from "../data/api";

const isLoopback = (host: string) => /^(127\.|localhost$|\[::1\]$)/.test(host);

/** Where a phone finds this crew: the address this page stands at, or one that the server was told to go by. */
export function usePhoneAddress(): string | undefined {
  const { data } = useQuery({ queryKey: ["addresses"], queryFn: ({ signal }) => fetchAddresses(signal) });
  return isLoopback(location.hostname) ? data?.[0] : location.origin;
}

const QUIET = 4;

/** An address as a square that a camera reads; dark on light in either look, or cameras miss it. */
export function Code({ address, side = 200 }: { readonly address: string; readonly side?: number }) {
  const { size, data } = create(address, { errorCorrectionLevel: "M" }).modules;
  const dark = Array.from(data).flatMap((bit, i) =>
    bit ? [`M${QUIET + (i % size)} ${QUIET + Math.floor(i / size)}h1v1h-1z`] : [],
  );
  const whole = size + 2 * QUIET;
  return (
    <Svg
      width={side}
      height={side}
      viewBox={`0 0 ${whole} ${whole}`}
      role="img"
      aria-label={`Code of the address ${address}`}
      testID="address-code"
    >
      <Rect width={whole} height={whole} fill="#ffffff" />
      <Path d={dark.join("")} fill="#102430" />
    </Svg>
  );
}
