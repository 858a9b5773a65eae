import { View } from "@tamagui/core";
import { useState } from "react";
import { TextField } from "../../ui/fields";
import { GLOSSARY } from "../../ui/glossary";
import { Screen } from "../../ui/Screen";
import { Body, Heading } from "../../ui/words";

const sorted = [...GLOSSARY].sort((a, b) => a.term.localeCompare(b.term, "en"));

/** Every word of the trade that the app uses, in plain ones. */
export function WordsScreen() {
  const [sought, setSought] = useState("");
  const found = sorted.filter(({ term, words }) =>
    `${term} ${words}`.toLowerCase().includes(sought.trim().toLowerCase()),
  );
  return (
    <Screen title="Words">
      <View gap="$4">
        <TextField label="Look for" value={sought} onChange={setSought} testID="words-search" />
        <View gap="$3" role="list" aria-label="Words of the trade">
          {found.map(({ term, words }) => (
            <View key={term} role="listitem" testID="word">
              <Heading>{term}</Heading>
              <Body>{words}</Body>
            </View>
          ))}
        </View>
        {found.length === 0 ? <Body>No word like that here.</Body> : null}
      </View>
    </Screen>
  );
}
