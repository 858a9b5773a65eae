import { View } from "@tamagui/core";
import { Code, usePhoneAddress } from "../../ui/Code";
import { Body, Heading, Strong } from "../../ui/words";

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
