/** Takes one thing away. */
export function Cross({ label, act }: { label: string; act: () => void }) {
  return (
    <button type="button" className="quiet" aria-label={label} title={label} onClick={act}>
      ×
    </button>
  );
}
