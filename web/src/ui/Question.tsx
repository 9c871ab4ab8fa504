import { AlertDialog } from "radix-ui";
import { buttonLook } from "./Button";
import { QuestionBox } from "./QuestionBox";

interface QuestionProps {
  title: string;
  text: string;
  stay: string;
  go: string;
  onStay: () => void;
  onGo: () => void;
}

/** A question that has just come up: stay, or go on. */
export function Question({ title, text, stay, go, onStay, onGo }: QuestionProps) {
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onStay()}>
      <QuestionBox title={title} text={text}>
        <AlertDialog.Cancel className={buttonLook("primary")}>{stay}</AlertDialog.Cancel>
        <AlertDialog.Action className={buttonLook("plain")} onClick={onGo}>
          {go}
        </AlertDialog.Action>
      </QuestionBox>
    </AlertDialog.Root>
  );
}
