import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Controller, useForm } from "react-hook-form";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { type CampaignDocument, createCampaign, defaultsQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { sourcesQuery } from "@/api/sources";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { ModeChoice } from "@/components/ModeChoice";
import { NameTaken } from "@/components/NameTaken";
import { MOST_NAMED } from "@/components/Paging";
import { desk } from "@/lib/blog-path";
import { documentOf } from "@/lib/starts";
import { Button, buttonLook } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { SourceChoice } from "./SourceChoice";
import { StartChoice } from "./StartChoice";

interface Form {
  name: string;
  sources: string[];
  start: string;
  mode: CampaignDocument["release"]["mode"];
}

export default function NewCampaign() {
  const { blog = "" } = useParams();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const sources = useQuery(sourcesQuery(blog, "", "title", 0, MOST_NAMED));
  const form = useForm<Form>({
    defaultValues: { name: "", sources: params.getAll("source"), start: "headlines", mode: "hold" },
  });
  const making = useMutation({
    mutationFn: async ({ name, sources: keys, start, mode }: Form) => {
      const defaults = await queries.ensureQueryData(defaultsQuery(blog));
      return createCampaign(blog, name, documentOf(defaults, start, keys, mode));
    },
    onSuccess: (campaign) => {
      queries.invalidateQueries({ queryKey: keys.campaigns(blog) });
      navigate(desk.bench(blog, campaign.slug));
    },
  });
  const { errors } = form.formState;
  return (
    <>
      <Head
        title="New campaign"
        facts={<span className="text-ink3">a short start; the rest is on the bench</span>}
      />
      <div className="min-h-0 flex-1 overflow-auto p-6">
        {sources.error && <ErrorNote error={sources.error} onRetry={sources.refetch} />}
        {sources.isPending && <Loading what="sources" />}
        {sources.data?.rows.length === 0 && (
          <Empty title="No source yet" text="A campaign needs at least one source to take items from.">
            <Link className={buttonLook("primary")} to={desk.addSources(blog)}>
              Add a feed
            </Link>
          </Empty>
        )}
        {sources.data && sources.data.rows.length > 0 && (
          <form
            className="mx-auto max-w-2xl space-y-6 sheet-card p-6"
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
              name="sources"
              rules={{ validate: (keys) => keys.length > 0 || "Choose at least one source." }}
              render={({ field }) => (
                <SourceChoice
                  sources={sources.data.rows}
                  chosen={field.value}
                  onChange={field.onChange}
                  error={errors.sources?.message}
                />
              )}
            />
            <Controller
              control={form.control}
              name="start"
              render={({ field }) => <StartChoice value={field.value} onChange={field.onChange} />}
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
