import { TamaguiProvider } from "@tamagui/core";
import { render } from "@testing-library/react";
import type { ReactElement } from "react";
import { config } from "../ui/theme";

/** Renders a part of the interface as the app would. */
export const inApp = (part: ReactElement) =>
  render(part, {
    wrapper: ({ children }) => (
      <TamaguiProvider config={config} defaultTheme="light" disableInjectCSS>
        {children}
      </TamaguiProvider>
    ),
  });
