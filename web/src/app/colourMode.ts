import { useEffect, useState } from "react";

type Mode = "light" | "dark";
const KEPT = "dry-ledger-theme";

const first = (): Mode => {
  const kept = localStorage.getItem(KEPT);
  if (kept === "light" || kept === "dark") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
};

/** Light or dark: the person's choice, else the machine's. */
export function useColourMode(): [Mode, () => void] {
  const [mode, setMode] = useState<Mode>(first);
  useEffect(() => {
    document.documentElement.classList.toggle("dark", mode === "dark");
    document.documentElement.style.colorScheme = mode;
  }, [mode]);
  const switchMode = () =>
    setMode((now) => {
      const next = now === "dark" ? "light" : "dark";
      localStorage.setItem(KEPT, next);
      return next;
    });
  return [mode, switchMode];
}
