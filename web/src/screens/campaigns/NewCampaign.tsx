import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Controller, useForm } from "react-hook-form";
import { Link, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { type CampaignDocument, createCampaign, defaultsQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { sourcesQuery } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { ModeChoice } from "@/components/ModeChoice";
import { NameTaken } from "@/components/NameTaken";
import { AddFeedDialog } from "@/components/source-choice/AddFeedDialog";
import { type Chosen, SourceChoice } from "@/components/source-choice/SourceChoice";
import { desk } from "@/lib/blog-path";
import { documentOf } from "@/lib/starts";
import { Button, buttonLook } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { StartChoice } from "./StartChoice";
import { useTriedStarts } from "./useTriedStarts";

interface Form {
  name: string;
  chosen: Chosen;
  start: string;
  mode: CampaignDocument["release"]["mode"];
}

export default function NewCampaign() {
  const { blog = "" } = useParams();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  // Picked in the list of sources; an address has no room for thousands.
  const handed = (useLocation().state as { sources?: string[] } | null)?.sources ?? [];
  const queries = useQueryClient();
  const [adding, setAdding] = useState(false);
  const sources = useQuery(sourcesQuery(blog, "", "title", 0, 1));
  const form = useForm<Form>({
    defaultValues: {
      name: "",
      chosen: { sources: [...params.getAll("source"), ...handed], labels: params.getAll("label") },
      start: "headlines",
      mode: "hold",
    },
  });
  const making = useChange(
    async ({ name, chosen, start, mode }: Form) => {
      const defaults = await queries.ensureQueryData(defaultsQuery(blog));
      return createCampaign(blog, name, documentOf(defaults, start, chosen, mode));
    },
    { refresh: [keys.campaigns(blog)], onDone: (campaign) => navigate(desk.bench(blog, campaign.slug)) },
  );
  const { errors } = form.formState;
  const tried = useTriedStarts(blog, form.watch("chosen"), form.watch("mode"));
  return (
    <>
      <Head
        title="New campaign"
        facts={<span className="text-ink3">a short start; the rest is on the bench</span>}
      />
      <div className="min-h-0 flex-1 overflow-auto p-6">
        {sources.error && <ErrorNote error={sources.error} onRetry={sources.refetch} />}
        {sources.isPending && <Loading what="sources" />}
        {sources.data?.total === 0 && (
          <Empty title="No source yet" text="A campaign needs at least one source to take items from.">
            <Button look="primary" onClick={() => setAdding(true)}>
              Add a feed
            </Button>
          </Empty>
        )}
        {adding && (
          <AddFeedDialog
            blog={blog}
            onAdded={(key) => form.setValue("chosen", { sources: [key], labels: [] })}
            onClose={() => setAdding(false)}
          />
        )}
        {sources.data && sources.data.total > 0 && (
          <form
            className="mx-auto max-w-3xl space-y-6 sheet-card p-6"
            onSubmit={form.handleSubmit((values) => making.mutate(values))}
          >
            <Field
              label="Name"
              hint="Only people who work on the blog see it. 120 characters at most."
              error={errors.name?.message}
            >
              <input
                {...form.register("name", {
                  required: "Give the campaign a name.",
                  maxLength: { value: 120, message: "A name can have 120 characters at most." },
                })}
                className={inputLook}
                aria-invalid={Boolean(errors.name)}
              />
            </Field>
            <NameTaken blog={blog} name={form.watch("name")} />
            <Controller
              control={form.control}
              name="chosen"
              rules={{
                validate: (chosen) =>
                  chosen.sources.length + chosen.labels.length > 0 || "Choose at least one source.",
              }}
              render={({ field }) => (
                <fieldset>
                  <legend className="mb-1 font-semibold">Sources</legend>
                  <div className="max-h-72 overflow-auto rounded-[7px] border border-line px-3 py-2">
                    <SourceChoice
                      blog={blog}
                      chosen={field.value}
                      onChange={(next) => field.onChange({ ...field.value, ...next })}
                    />
                  </div>
                  <FormError error={errors.chosen ? new Error(errors.chosen.message) : null} />
                </fieldset>
              )}
            />
            <Controller
              control={form.control}
              name="start"
              render={({ field }) => (
                <StartChoice value={field.value} tried={tried} onChange={field.onChange} />
              )}
            />
            <Controller
              control={form.control}
              name="mode"
              render={({ field }) => <ModeChoice value={field.value} onChange={field.onChange} />}
            />
            {making.error && <ErrorNote error={making.error} />}
            <div className="flex justify-end gap-2">
              <Link className={buttonLook("plain")} to={desk.campaigns(blog)}>
                Cancel
              </Link>
              <Button type="submit" look="primary" busy={making.isPending}>
                Go on to the bench
              </Button>
            </div>
          </form>
        )}
      </div>
    </>
  );
}
