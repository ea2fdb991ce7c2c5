import { Button } from "../../shared/ui";
/** Takes one thing away. */
export function Cross({ label, act }: { label: string; act: () => void }) {
  return (
    <Button look="quiet" aria-label={label} data-tip={label} onClick={act}>
      ×
    </Button>
  );
}
