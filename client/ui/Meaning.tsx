import { View } from "@tamagui/core";
import { useState } from "react";
import { meaningOf } from "./glossary";
import { Pressable } from "./pressable";
import { Small, Strong } from "./words";

/** A word of the trade beside its field: a tap tells what it means, another puts it away. */
export function Meaning({ of: label }: { readonly of: string }) {
  const [open, setOpen] = useState(false);
  const meaning = meaningOf(label);
  if (!meaning) return null;
  return (
    <View flexDirection="row" flexWrap="wrap" alignItems="center" columnGap="$2" flexShrink={1} minWidth={0}>
      <Pressable
        onPress={() => setOpen(!open)}
        aria-expanded={open}
        aria-label={`What is ${meaning.term}?`}
        testID={`meaning-${meaning.term}`}
        minHeight={44}
        minWidth={44}
        marginVertical={-12}
        alignItems="flex-start"
      >
        <View
          width={20}
          height={20}
          borderRadius={10}
          borderWidth={1.5}
          borderColor="$soft"
          borderStyle="dotted"
          alignItems="center"
          justifyContent="center"
        >
          <Small fontWeight="700" lineHeight={18}>
            ?
          </Small>
        </View>
      </Pressable>
      {open ? (
        <Small color="$ink" flexBasis="100%" role="note">
          <Strong fontSize="$1">{meaning.term}: </Strong>
          {meaning.words}
        </Small>
      ) : null}
    </View>
  );
}
