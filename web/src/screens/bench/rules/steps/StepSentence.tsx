import { useQuery } from "@tanstack/react-query";
import { blogQuery } from "@/api/blogs";
import type { ShapeStep } from "@/api/campaigns";
import { CutSentence } from "./CutSentence";
import { DropSentence } from "./DropSentence";
import { LinksSentence } from "./LinksSentence";
import { OfWord } from "./OfWord";
import { PicturesSentence } from "./PicturesSentence";
import { ReplaceSentence } from "./ReplaceSentence";
import { RewordSentence } from "./RewordSentence";
import { RewriteSentence } from "./RewriteSentence";
import { SelectSentence } from "./SelectSentence";
import { ShortenSentence } from "./ShortenSentence";
import { StandingSentence } from "./StandingSentence";
import { SummariseSentence } from "./SummariseSentence";
import { TableSentence } from "./TableSentence";
import { TidySentence } from "./TidySentence";
import { TranslateSentence } from "./TranslateSentence";

interface StepSentenceProps {
  blog: string;
  step: ShapeStep;
  saved: ShapeStep | undefined;
  /** The names of the blog's fields. */
  fields: readonly string[];
  fault?: string | undefined;
  onChange: (step: ShapeStep) => void;
}

/** A step as a sentence, whatever its kind. */
export function StepSentence(props: StepSentenceProps) {
  const { step, fields, onChange } = props;
  return (
    <>
      <KindSentence {...props} />
      {"of" in step && <OfWord of={step.of} fields={fields} onChange={(of) => onChange({ ...step, of })} />}
    </>
  );
}

function KindSentence({ blog, step, saved, fault, onChange }: StepSentenceProps) {
  const kept = useQuery(blogQuery(blog)).data;
  switch (step.kind) {
    case "drop_paragraphs":
      return (
        <DropSentence
          step={step}
          saved={saved?.kind === "drop_paragraphs" ? saved : undefined}
          lists={kept?.word_lists ?? []}
          onChange={onChange}
        />
      );
    case "cut":
      return <CutSentence step={step} onChange={onChange} />;
    case "select":
      return <SelectSentence step={step} fault={fault} onChange={onChange} />;
    case "links":
      return <LinksSentence step={step} onChange={onChange} />;
    case "pictures":
      return <PicturesSentence step={step} onChange={onChange} />;
    case "replace":
      return <ReplaceSentence step={step} fault={fault} onChange={onChange} />;
    case "table":
      return <TableSentence blog={blog} step={step} tables={kept?.term_tables ?? []} onChange={onChange} />;
    case "reword":
      return <RewordSentence blog={blog} step={step} tables={kept?.term_tables ?? []} onChange={onChange} />;
    case "translate":
      return (
        <TranslateSentence
          blog={blog}
          step={step}
          tables={kept?.term_tables ?? []}
          fault={fault}
          onChange={onChange}
        />
      );
    case "rewrite":
      return <RewriteSentence blog={blog} step={step} tables={kept?.term_tables ?? []} onChange={onChange} />;
    case "summarise":
      return <SummariseSentence step={step} onChange={onChange} />;
    case "shorten":
      return <ShortenSentence step={step} onChange={onChange} />;
    case "standing":
      return <StandingSentence step={step} fault={fault} onChange={onChange} />;
    case "tidy":
      return <TidySentence step={step} onChange={onChange} />;
  }
}
