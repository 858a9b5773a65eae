import { View } from "@tamagui/core";
import { useQuery } from "@tanstack/react-query";
import { create } from "qrcode";
import Svg, { Path, Rect } from "react-native-svg";
import { fetchAddresses } from "../../data/api";
import { Body, Heading, Strong } from "../../ui/words";

const isLoopback = (host: string) => /^(127\.|localhost$|\[::1\]$)/.test(host);

/** Where a phone finds this crew: the address this page stands at, or one that the server was told to go by. */
function usePhoneAddress(): string | undefined {
  const { data } = useQuery({ queryKey: ["addresses"], queryFn: ({ signal }) => fetchAddresses(signal) });
  return isLoopback(location.hostname) ? data?.[0] : location.origin;
}

const QUIET = 4;
const SIDE = 200;

/** The address as a square that a camera reads; dark on light in either look, or cameras miss it. */
function Code({ address }: { readonly address: string }) {
  const { size, data } = create(address, { errorCorrectionLevel: "M" }).modules;
  const dark = Array.from(data).flatMap((bit, i) =>
    bit ? [`M${QUIET + (i % size)} ${QUIET + Math.floor(i / size)}h1v1h-1z`] : [],
  );
  const whole = size + 2 * QUIET;
  return (
    <Svg
      width={SIDE}
      height={SIDE}
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

/** How this crew comes onto a phone. */
export function OnAPhone() {
  const address = usePhoneAddress();
  return (
    <View gap="$2">
      <Heading>On a phone</Heading>
      {address ? (
        <View gap="$2" alignItems="flex-start">
          <Body>Point the phone’s camera here, open the address, and add it to the home screen.</Body>
          <Code address={address} />
          <Strong>{address}</Strong>
        </View>
      ) : (
        <Body>
          This page stands at an address that only this computer reaches. docs/deploy.md says how a phone gets one; then
          its code stands here.
        </Body>
      )}
    </View>
  );
}
