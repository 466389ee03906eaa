import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from "react";
import { Button } from "./Button";

type Said = { text: string; undo?: () => void };
const Told = createContext<(text: string, undo?: () => void) => void>(() => {});

/** Tell the cook, in a line at the foot of the screen, what was done; with a way back where there is one. */
export function useTell() {
  return useContext(Told);
}

export function ToldProvider({ children }: { children: ReactNode }) {
  const [said, setSaid] = useState<Said | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const tell = useCallback((text: string, undo?: () => void) => {
    clearTimeout(timer.current);
    setSaid({ text, undo });
    timer.current = setTimeout(() => setSaid(null), undo ? 12_000 : 6_000);
  }, []);
  const value = useMemo(() => tell, [tell]);
  return (
    <Told.Provider value={value}>
      {children}
      <div
        role="status"
        className="pointer-events-none fixed inset-x-0 bottom-32 z-40 flex justify-center px-4 md:bottom-20 print:hidden"
      >
        {said && (
          <p className="pointer-events-auto flex items-center gap-4 rounded-field bg-neutral px-4 py-2 text-neutral-content shadow-lg">
            {said.text}
            {said.undo && (
              <Button
                kind="link"
                onClick={() => {
                  said.undo?.();
                  setSaid(null);
                }}
              >
                Undo
              </Button>
            )}
          </p>
        )}
      </div>
    </Told.Provider>
  );
}
