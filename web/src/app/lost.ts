import { useSyncExternalStore } from "react";
import { lost } from "../api/client";

/** Whether the server has stopped answering, as of the last call. */
export function useLost(): boolean {
  return useSyncExternalStore(lost.watch, lost.get);
}
