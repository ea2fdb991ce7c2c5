import { Modal } from "../shared";
import { Pair } from "../shared/ui";
import { words } from "../shared/words/keys";

/** The keys, each with what it does. */
export const KeysList = ({ shut }: { shut: () => void }) => (
  <Modal title={words.frame.keys} shut={shut}>
    {words.keyList.map(([key, what]) => (
      <Pair key={key} dotted>
        <b>{key}</b>
        <span>{what}</span>
      </Pair>
    ))}
  </Modal>
);
