import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { keys, useForm } from "../../shared";
import { LookParts } from "../../shared/look";
import { Button, Input, OnOff, RowOf, Select, Why } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { type useDeskLook, VIEW } from "./useDeskLook";

const w = words.desk;

interface Props {
  desk: ReturnType<typeof useDeskLook>;
  all: Schemas["ProjectOut"][];
  views: Schemas["DeskView"][];
}

/** What of the desk is shown, in which groups and order, and the views that one keeps of it. */
export function DeskBar({ desk, all, views }: Props) {
  const { view, set, columns, on } = desk;
  return (
    <RowOf mb="8" mt="0" role="search">
      <LookParts
        view={view}
        look={set}
        columns={columns}
        on={on}
        rows={() => all}
        first="manager"
        find={w.find}
        whole={w.noGroups}
      >
        <Select aria-label={w.alsoShow} value={view.also} onChange={(e) => set({ also: e.target.value })}>
          <option value="">{w.noMore}</option>
          {[...columns.values()]
            .filter((c) => c.groups)
            .map((c) => (
              <option key={c.key} value={c.key}>
                {w.with(c.title)}
              </option>
            ))}
        </Select>
        {view.group !== "" && (
          <Select aria-label={w.thenBy} value={view.below} onChange={(e) => set({ below: e.target.value })}>
            <option value="">{w.noThen}</option>
            {[...columns.values()]
              .filter((c) => c.groups && c.key !== view.group)
              .map((c) => (
                <option key={c.key} value={c.key}>
                  {w.below(c.title)}
                </option>
              ))}
          </Select>
        )}
        {all.some((p) => p.standing === "retired") && (
          <OnOff on={view.retired !== ""} set={(on) => set({ retired: on ? "1" : "" })}>
            {w.retiredToo}
          </OnOff>
        )}
        <OnOff on={view.due !== ""} set={(on) => set({ due: on ? "1" : "" })}>
          {w.onlyDue}
        </OnOff>
      </LookParts>
      <Views desk={desk} views={views} />
    </RowOf>
  );
}

function Views({ desk, views }: Pick<Props, "desk" | "views">) {
  const queries = useQueryClient();
  const { view, set } = desk;
  const done = ({ views: now }: Schemas["ViewsOut"]) =>
    queries.setQueryData(keys.desk.all, (was: Schemas["DeskOut"] | undefined) => was && { ...was, views: now });
  const form = useForm<{ name: string }>({ name: "" }, async (filled) => {
    const { group, sort: order, ...filters } = view;
    done(
      await take(client.PUT("/api/desk/views", { body: { name: filled.name.trim(), filters, group, order, shared } })),
    );
  });
  const [shared, share] = useState(false);
  const name = form.watch("name");
  const why = form.entry("name").why ?? form.wrong;
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
            set({ ...VIEW, ...found.filters, group: found.group, sort: found.order });
            form.setValue("name", found.name);
          }}
        >
          <option value="">{w.views}</option>
          {views.map((v) => (
            <option key={`${v.by} ${v.name}`} value={v.name}>
              {v.by ? w.viewBy(v.name, v.by) : v.name}
            </option>
          ))}
        </Select>
      )}
      <RowOf as="form" onSubmit={form.submit} mt="0">
        <Input
          aria-label={w.viewName}
          placeholder={w.viewName}
          width="130px"
          maxLength={100}
          {...form.register("name")}
        />
        {name.trim() && (
          <OnOff on={shared} set={share}>
            {w.share}
          </OnOff>
        )}
        <Button type="submit" disabled={!name.trim()}>
          {w.keepView}
        </Button>
        {chosen && (
          <Button
            look="quiet"
            aria-label={w.dropView(chosen.name)}
            onClick={async () => {
              done(await take(client.DELETE("/api/desk/views", { params: { query: { name: chosen.name } } })));
              form.reset();
            }}
          >
            ×
          </Button>
        )}
        {why && <Why role="alert">{why}</Why>}
      </RowOf>
    </>
  );
}
