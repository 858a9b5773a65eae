import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { OutOfReach, type Refused } from "../../data/api";
import { Card, PlainButton, TextButton } from "../../ui/boxes";
import { momentInWords } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { FEEDS, fetchFeeds, makeFeed, revokeFeed } from "./calendar-service";

const inWords = (error: unknown) =>
  error instanceof OutOfReach ? "Without a signal no address can be made or taken back." : (error as Refused).message;

/** Secret addresses under which calendars follow the crew's weeks; each can be taken back. */
export function CalendarFeeds() {
  const client = useQueryClient();
  const { data: feeds } = useQuery({ queryKey: FEEDS, queryFn: ({ signal }) => fetchFeeds(signal), retry: false });
  const [made, setMade] = useState<string>();
  const again = () => void client.invalidateQueries({ queryKey: FEEDS });
  const make = async () => {
    try {
      const { path } = await makeFeed(`Calendar ${(feeds?.length ?? 0) + 1}`);
      setMade(`${location.origin}${path}`);
      again();
    } catch (error) {
      showToast({ words: inWords(error) });
    }
  };
  const revoke = async (id: string) => {
    try {
      await revokeFeed(id);
      setMade(undefined);
      showToast({ words: "Taken back: nothing can be read at that address any more." });
      again();
    } catch (error) {
      showToast({ words: inWords(error) });
    }
  };
  return (
    <View gap="$2">
      <Heading>Followed by other calendars</Heading>
      <Body color="$soft">
        A calendar that is given the address follows what is booked and set. Whoever has it can read it: give it to
        nobody else, and take it back when it got about.
      </Body>
      {made ? (
        <Card testID="feed-made">
          <Strong>Copy it now: it is shown this once.</Strong>
          <Body testID="feed-address" {...({ style: { wordBreak: "break-all", userSelect: "all" } } as object)}>
            {made}
          </Body>
          <TextButton onPress={() => void navigator.clipboard?.writeText(made)}>Copy</TextButton>
        </Card>
      ) : null}
      {feeds?.map(({ id, name, madeAt, readAt }) => (
        <View key={id} flexDirection="row" flexWrap="wrap" alignItems="center" columnGap="$4" testID="feed">
          <Body>{name}</Body>
          <Small>
            {`made ${momentInWords(Date.parse(madeAt), clockNow())}, ${readAt ? `read ${momentInWords(Date.parse(readAt), clockNow())}` : "never read"}`}
          </Small>
          <TextButton onPress={() => void revoke(id)} label={`Take back the address of ${name}`} testID="revoke-feed">
            Take it back
          </TextButton>
        </View>
      ))}
      <PlainButton onPress={() => void make()} testID="make-feed">
        Make an address
      </PlainButton>
    </View>
  );
}
