import type { ReactNode } from "react";
import { Button } from "../../kit/Button";

/** A small button beside others. */
export function Tool({ children, onClick, off }: { children: ReactNode; onClick: () => void; off?: boolean }) {
  return (
    <Button onClick={onClick} disabled={off} kind="small">
      {children}
    </Button>
  );
}
