import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { libraryUsesQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { askServicesAgain, type Service, servicesQuery } from "@/api/services";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { useTell } from "@/ui/Toasts";
import { BillDialog } from "./BillDialog";
import { ServiceDialog } from "./ServiceDialog";
import { type Opened, ServiceRow } from "./ServiceRow";
import { TryDialog } from "./TryDialog";

/** The services that translate, reword and summarise for a blog. */
export default function Services() {
  const { blog = "" } = useParams();
  const editor = useMay()("editor");
  const tell = useTell();
  const [open, setOpen] = useState<{ what: Opened; service: Service | null } | null>(null);
  const found = useQuery(servicesQuery(blog));
  const uses = useQuery(libraryUsesQuery(blog)).data?.services ?? {};
  const again = useChange(() => askServicesAgain(blog), {
    refresh: [keys.services(blog), keys.tasks(blog)],
    onDone: ({ texts }) => tell(`${plural(texts, "text")} asked about again.`, { tone: "good" }),
    onFault: (fault) => tell(fault.message, { tone: "bad" }),
  });
  const page = found.data;
  const close = () => setOpen(null);
  return (
    <>
      <Head
        title="Language services"
        facts={
          <span className="text-ink3">
            {page
              ? `${plural(page.answered, "text")} kept · ${page.waiting} asked for · ${page.kept} left as they were`
              : "they translate, reword and summarise"}
          </span>
        }
      >
        {editor && !!page?.kept && (
          <Confirm
            trigger={<Button busy={again.isPending}>Ask again</Button>}
            title={`Ask again about ${plural(page.kept, "text")}?`}
            text="No answer could be used for them, so they stayed as they were. They are sent once more, which costs as before. Their posts follow when you compare them with the rules."
            action="Ask again"
            onConfirm={() => again.mutate()}
          />
        )}
        {editor && (
          <Button look="primary" onClick={() => setOpen({ what: "change", service: null })}>
            New service
          </Button>
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="the services" />}
        {page?.services.length === 0 && (
          <Empty
            title="No language service yet"
            text="A service is described, not programmed: where the text stands in its request, and where in its answer. A model on your own machine serves as well."
          />
        )}
        {page && page.services.length > 0 && (
          <ul aria-label="Language services" className="sheet-card">
            {page.services.map((one) => (
              <ServiceRow
                key={one.key}
                blog={blog}
                service={one}
                campaigns={(uses[one.key] ?? []).map(({ name }) => name)}
                editor={editor}
                onOpen={(what) => setOpen({ what, service: one })}
              />
            ))}
          </ul>
        )}
      </div>
      {open?.what === "change" && <ServiceDialog blog={blog} service={open.service} onClose={close} />}
      {open?.what === "try" && open.service && (
        <TryDialog blog={blog} service={open.service} onClose={close} />
      )}
      {open?.what === "bill" && open.service && (
        <BillDialog blog={blog} service={open.service} onClose={close} />
      )}
    </>
  );
}
