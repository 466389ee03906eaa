import { createContext, useContext } from "react";
import { type Numbers, numbersFor } from "../pure/format";

const Written = createContext<Numbers>(numbersFor("point"));
export const NumbersProvider = Written.Provider;

/** How this kitchen writes numbers. */
export function useNumbers(): Numbers {
  return useContext(Written);
}
