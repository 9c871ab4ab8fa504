import { useEffect } from "react";
import { useSearchParams } from "react-router";
import { useTell } from "@/ui/Toasts";

/** Shows an error from elsewhere: a platform's refusal returns here with its reason in the address. */
export function useRefusal() {
  const [params, setParams] = useSearchParams();
  const tell = useTell();
  const refused = params.get("refused");
  useEffect(() => {
    if (!refused) return;
    tell(refused, { tone: "bad" });
    setParams(
      (before) => {
        before.delete("refused");
        return before;
      },
      { replace: true },
    );
  }, [refused, setParams, tell]);
}
