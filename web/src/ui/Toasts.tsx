import clsx from "clsx";
import { Toast } from "radix-ui";
import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { Lozenge } from "./Lozenge";

interface Message {
  id: number;
  text: string;
  tone: "good" | "bad";
  undo?: (() => void) | undefined;
}

type Tell = (text: string, more?: { tone?: "good" | "bad"; undo?: () => void }) => void;

const ToastContext = createContext<Tell | null>(null);

export function useTell(): Tell {
  const tell = useContext(ToastContext);
  if (!tell) throw new Error("useTell is used outside of Toasts");
  return tell;
}

/** Short messages at the foot of the screen, some with Undo. */
export function Toasts({ children }: { children: ReactNode }) {
  const [messages, setMessages] = useState<Message[]>([]);
  const tell = useCallback<Tell>((text, more) => {
    const message = { id: Date.now() + Math.random(), text, tone: more?.tone ?? "good", undo: more?.undo };
    setMessages((before) => [...before.slice(-2), message]);
  }, []);
  const remove = (id: number) => setMessages((before) => before.filter((message) => message.id !== id));
  return (
    <ToastContext value={tell}>
      <Toast.Provider duration={6000}>
        {children}
        {messages.map((message) => (
          <Toast.Root
            key={message.id}
            onOpenChange={(open) => !open && remove(message.id)}
            className={clsx(
              "flex items-center gap-3 rounded-lg border border-line bg-sheet px-4 py-2.5 shadow-lg",
              message.tone === "bad" && "border-madder",
            )}
          >
            <Lozenge kind={message.tone === "bad" ? "refused" : "publish"} />
            <Toast.Description className="font-medium">{message.text}</Toast.Description>
            {message.undo && (
              <Toast.Action altText="Undo" className="font-semibold text-verd" onClick={message.undo}>
                Undo
              </Toast.Action>
            )}
          </Toast.Root>
        ))}
        <Toast.Viewport className="fixed right-4 bottom-14 z-50 flex max-w-[480px] flex-col gap-2 outline-none" />
      </Toast.Provider>
    </ToastContext>
  );
}
