import { useSyncExternalStore } from "react";
import { server } from "../api/client";

/** Whether the server has stopped answering, as of the last call. */
export function useLost(): boolean {
  return useSyncExternalStore(server.watch, server.isLost);
}
