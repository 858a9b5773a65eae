import type { ReactNode } from "react";
import { FormBox } from "../ui/pickers";
import { Body } from "../ui/words";
import type { RecordForm as Form } from "./useRecordForm";

/** The fields of a form; what is wrong with them is read out. */
export function RecordForm({ form, children }: { readonly form: Form; readonly children: ReactNode }) {
  return (
    <FormBox>
      {children}
      {form.trouble ? (
        <Body role="alert" color="$rowan" testID="form-trouble">
          {form.trouble}
        </Body>
      ) : null}
    </FormBox>
  );
}
