import { View } from "@tamagui/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import Svg, { Path, Rect } from "react-native-svg";
import { fetchAddresses } from "../data/api";
import { fetchAgain } from "../data/fetch-again";

const isLoopback = (host: string) => /^(127\.|localhost$|\[::1\]$)/.test(host);

/** Where a phone finds this crew: the address this page stands at, or one that the server was told to go by. */
export function usePhoneAddress(): string | undefined {
  const { data } = useQuery({ queryKey: ["addresses"], queryFn: ({ signal }) => fetchAddresses(signal) });
  return isLoopback(location.hostname) ? data?.[0] : location.origin;
}

const QUIET = 4;

interface Modules {
  readonly size: number;
  readonly data: ArrayLike<number>;
}

/** The squares of an address, once what makes them is here. */
function useModules(address: string): Modules | undefined {
  const [modules, setModules] = useState<Modules>();
  useEffect(() => {
    let wanted = true;
    void fetchAgain(() => import("./qr")).then(
      ({ create }) => wanted && setModules(create(address, { errorCorrectionLevel: "M" }).modules),
    );
    return () => {
      wanted = false;
    };
  }, [address]);
  return modules;
}

/** An address as a square that a camera reads; dark on light in either look, or cameras miss it. */
export function Code({ address, side = 200 }: { readonly address: string; readonly side?: number }) {
  const modules = useModules(address);
  if (!modules) return <View width={side} height={side} />;
  const { size, data } = modules;
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
