import { type ReactNode, useEffect, useRef } from "react";
import { Button } from "./Button";

const TWICE_MS = 500;

/** A dialog that opens over the bench and gives the focus back when it closes. The focus starts at what is marked `data-first`. It hangs from its
 * upper edge: what comes into it late moves nothing above. */
export function Sheet({
  title,
  onClose,
  children,
  wide,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const opened = useRef(0);
  // The dialog element is an outside system: it is opened by a call, not by a property.
  useEffect(() => {
    dialog.current?.showModal();
    opened.current = performance.now();
    dialog.current?.querySelector<HTMLElement>("[data-first]")?.focus();
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label={title}
      onClose={onClose}
      // Beside the dialog closes it; not the second touch of a finger that touched twice.
      onClick={(event) =>
        event.target === dialog.current && event.timeStamp - opened.current > TWICE_MS && dialog.current.close()
      }
      onKeyDown={(event) => event.key === "Escape" && event.stopPropagation()}
      className={`mx-auto mt-[8dvh] mb-auto max-h-[86dvh] ${wide ? "w-[min(64rem,96vw)]" : "w-[min(44rem,94vw)]"} overflow-y-auto rounded-box border border-base-300 bg-base-100 p-0 text-base-content shadow-xl backdrop:bg-black/40`}
    >
      <div className="p-5">
        <header className="mb-3 flex items-start justify-between gap-4">
          <h2 className="text-2xl font-bold">{title}</h2>
          <Button kind="ghost" onClick={() => dialog.current?.close()}>
            Close
          </Button>
        </header>
        {children}
      </div>
    </dialog>
  );
}
