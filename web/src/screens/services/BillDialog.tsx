import { useQuery } from "@tanstack/react-query";
import { billQuery, type Service } from "@/api/services";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Dialog } from "@/ui/Dialog";

const whole = new Intl.NumberFormat("en");

interface BillDialogProps {
  blog: string;
  service: Service;
  onClose: () => void;
}

/** What was sent to a service in the last thirty days. */
export function BillDialog({ blog, service, onClose }: BillDialogProps) {
  const found = useQuery(billQuery(blog, service.key));
  const price = Number(service.price ?? 0);
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Sent to “${service.name}”`}
      description="In the last thirty days, by campaign. The price is an estimate by its characters."
    >
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {found.isPending && <Loading what="the bill" />}
      {found.data?.length === 0 && <p className="text-ink3">Nothing was sent yet.</p>}
      {found.data && found.data.length > 0 && (
        <table className="w-full text-left tabular-nums">
          <thead className="text-xs text-ink3">
            <tr>
              <th className="py-1 font-medium">Campaign</th>
              <th className="text-right font-medium">Requests</th>
              <th className="text-right font-medium">Texts</th>
              <th className="text-right font-medium">Characters</th>
              <th className="text-right font-medium">Counted</th>
              {price > 0 && <th className="text-right font-medium">{service.currency || "Price"}</th>}
            </tr>
          </thead>
          <tbody>
            {found.data.map((row) => (
              <tr key={row.campaign ?? ""} className="border-t border-line2">
                <td className="py-1">{row.campaign ?? "trials"}</td>
                <td className="text-right">{whole.format(row.requests)}</td>
                <td className="text-right">{whole.format(row.texts)}</td>
                <td className="text-right">{whole.format(row.characters)}</td>
                <td className="text-right">{row.charged ? whole.format(row.charged) : "–"}</td>
                {price > 0 && (
                  <td className="text-right">{((row.characters * price) / 1_000_000).toFixed(2)}</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Dialog>
  );
}
