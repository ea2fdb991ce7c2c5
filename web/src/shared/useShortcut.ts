import { useHotkeys } from "react-hotkeys-hook";

/**
 * A shortcut by the character that is typed, wherever its key lies; none fires while one types in an entry.
 * A character that some keyboards reach only with Shift or AltGr is taken with any of them.
 */
export function useShortcut(keys: string, act: () => void) {
  useHotkeys(keys, act, {
    useKey: true,
    preventDefault: true,
    ignoreModifiers: keys.length === 1,
  });
}
