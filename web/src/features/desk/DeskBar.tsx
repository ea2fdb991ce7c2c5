import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { keys } from "../../shared";
import { Button, Input, RowOf, Select, TickBox } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { ORDER_KEYS, titleOf as title, type useDeskLook, valueIn } from "./useDeskLook";

const w = words.desk;

interface Props {
  desk: ReturnType<typeof useDeskLook>;
  all: Schemas["ProjectOut"][];
  views: Schemas["DeskView"][];
}

/** What of the desk is shown, in which groups and order, and the views that one keeps of it. */
export function DeskBar({ desk, all, views }: Props) {
  const { look, set, columns } = desk;
  const values = [...new Set(all.map((p) => valueIn(p, look.by)))].filter(Boolean).sort();
  return (
    <RowOf mb="8" mt="0" role="search">
      <Input
        aria-label={w.find}
        placeholder={w.find}
        width="150px"
        value={look.find}
        onChange={(e) => set({ find: e.target.value })}
      />
      <Select aria-label={w.filterBy} value={look.by} onChange={(e) => set({ by: e.target.value, is: "" })}>
        <option value="">{w.all}</option>
        {columns.map((by) => (
          <option key={by} value={by}>
            {title(by)}
          </option>
        ))}
      </Select>
      {look.by && (
        <Select aria-label={title(look.by)} value={look.is} onChange={(e) => set({ is: e.target.value })}>
          <option value="">{w.any}</option>
          {values.map((v) => (
            <option key={v}>{v}</option>
          ))}
        </Select>
      )}
      <Select aria-label={w.groupBy} value={look.group} onChange={(e) => set({ group: e.target.value })}>
        <option value="">{w.noGroups}</option>
        {columns.map((by) => (
          <option key={by} value={by}>
            {w.grouped(title(by))}
          </option>
        ))}
      </Select>
      <Select aria-label={w.orderBy} value={look.order} onChange={(e) => set({ order: e.target.value })}>
        <option value="">{w.asMade}</option>
        {ORDER_KEYS.map((key) => (
          <option key={key} value={key}>
            {w.orders[key]}
          </option>
        ))}
      </Select>
      <Select aria-label={w.alsoShow} value={look.also} onChange={(e) => set({ also: e.target.value })}>
        <option value="">{w.noMore}</option>
        {columns.map((by) => (
          <option key={by} value={by}>
            {w.with(title(by))}
          </option>
        ))}
      </Select>
      <TickBox>
        <Input
          type="checkbox"
          look="bare"
          checked={look.due !== ""}
          onChange={(e) => set({ due: e.target.checked ? "1" : "" })}
        />
        {w.onlyDue}
      </TickBox>
      <Views desk={desk} views={views} />
    </RowOf>
  );
}

function Views({ desk, views }: Pick<Props, "desk" | "views">) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const { look, set } = desk;
  const done = ({ views: now }: Schemas["ViewsOut"]) =>
    queries.setQueryData(keys.desk.all, (was: Schemas["DeskOut"] | undefined) => was && { ...was, views: now });
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    const { group, order, ...filters } = look;
    done(await take(client.PUT("/api/desk/views", { body: { name: name.trim(), filters, group, order } })));
    setName("");
  };
  const chosen = views.find((v) => v.name === name.trim());
  return (
    <>
      {views.length > 0 && (
        <Select
          aria-label={w.views}
          value=""
          onChange={(e) => {
            const found = views.find((v) => v.name === e.target.value);
            if (!found) return;
            set({
              find: "",
              by: "",
              is: "",
              due: "",
              also: "",
              ...found.filters,
              group: found.group,
              order: found.order,
            });
            setName(found.name);
          }}
        >
          <option value="">{w.views}</option>
          {views.map((v) => (
            <option key={v.name}>{v.name}</option>
          ))}
        </Select>
      )}
      <RowOf as="form" onSubmit={keep} mt="0">
        <Input
          aria-label={w.viewName}
          placeholder={w.viewName}
          width="130px"
          maxLength={100}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          {w.keepView}
        </Button>
        {chosen && (
          <Button
            look="quiet"
            aria-label={w.dropView(chosen.name)}
            onClick={async () => {
              done(await take(client.DELETE("/api/desk/views", { params: { query: { name: chosen.name } } })));
              setName("");
            }}
          >
            ×
          </Button>
        )}
      </RowOf>
    </>
  );
}
