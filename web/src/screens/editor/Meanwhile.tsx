import { Button } from "@/ui/Button";

interface MeanwhileProps {
  error: Error;
  onGoOn: () => void;
  onDrop: () => void;
}

/** Another person has saved the post; the person chooses how to continue. */
export function Meanwhile({ error, onGoOn, onDrop }: MeanwhileProps) {
  return (
    <section
      role="alert"
      className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line bg-ochre-wash px-4 py-2"
    >
      <p className="min-w-0 flex-1">{error.message}</p>
      <Button small look="primary" onClick={onGoOn}>
        Put mine over theirs
      </Button>
      <Button small onClick={onDrop}>
        Take theirs
      </Button>
    </section>
  );
}
