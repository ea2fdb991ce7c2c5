import { useState } from "react";
import { Problem, type Schemas } from "../../api";
import { Bones, format, Notice, oneOf } from "../../shared";
import { Act, DataTable, Input, PartTitle, RowOf, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/people";
import { Given } from "./Given";
import { NewPerson } from "./NewPerson";
import { PeopleList } from "./PeopleList";
import { DOES, ROLES, usePeople } from "./usePeople";

type Row = Schemas["PersonRow"];
const w = words.people;
const MANY = 20;

/** Everybody who signs in: name, role, right, way in; each changed in its row. */
export function People() {
  const { people, add, change: changing, way: doingTo } = usePeople();
  const [given, setGiven] = useState<Schemas["GivenOut"] | null>(null);
  const [wrong, setWrong] = useState<{ id: number; message: string } | null>(null);
  const [find, setFind] = useState("");
  if (people.isPending) return <Bones />;
  if (!people.data) return <Notice bad>{people.error?.message}</Notice>;
  const all = people.data.people;
  const wanted = find.trim().toLowerCase();
  const shown = wanted ? all.filter((p) => `${p.full_name} ${p.username}`.toLowerCase().includes(wanted)) : all;
  /** What is done with a row; a refusal stands under it. */
  const doing = (id: number, what: Promise<Schemas["GivenOut"]>) =>
    what.then(
      (out) => {
        setWrong(null);
        if (out.password) setGiven(out);
      },
      (no: unknown) => {
        if (!(no instanceof Problem)) throw no;
        setWrong({ id, message: no.message });
      },
    );
  const change = (p: Row, cells: Schemas["PatchedPersonChange"]) =>
    doing(p.id, changing.mutateAsync({ id: p.id, ...cells }));
  const way = (p: Row, what: Schemas["PersonDoes"]["do"]) => doing(p.id, doingTo.mutateAsync({ id: p.id, what }));
  return (
    <>
      <RowOf mb="8">
        <Soft flex="1">{w.days(people.data.password_days)}</Soft>
        {all.length > MANY && (
          <Input aria-label={w.name} placeholder={w.name} value={find} onChange={(e) => setFind(e.target.value)} />
        )}
        <NewPerson add={add.mutateAsync} then={setGiven} />
      </RowOf>
      {given?.password && <Given name={given.person.full_name} password={given.password} shut={() => setGiven(null)} />}
      <DataTable
        aria-label={w.tabs.people}
        rows={shown}
        keyOf={(p) => p.id}
        columns={[
          {
            title: w.name,
            cell: (p) => (
              <>
                {p.full_name} <Soft as="div">{p.username}</Soft>
                {wrong?.id === p.id && <Why role="alert">{wrong.message}</Why>}
              </>
            ),
          },
          {
            title: w.role,
            cell: (p) => (
              <Select
                aria-label={w.of(w.role, p.full_name)}
                value={p.role}
                onChange={(e) => change(p, { role: oneOf(ROLES, e.target.value) })}
              >
                {Object.entries(w.roles).map(([key, word]) => (
                  <option key={key} value={key}>
                    {word}
                  </option>
                ))}
              </Select>
            ),
          },
          {
            title: w.administrator,
            cell: (p) => (
              <Input
                type="checkbox"
                look="bare"
                aria-label={w.of(w.administrator, p.full_name)}
                checked={p.administrator}
                onChange={(e) => change(p, { administrator: e.target.checked })}
              />
            ),
          },
          {
            title: w.projects,
            cell: (p) => p.memberships.map((m) => `${m.project}: ${w.memberRoles[m.role]}`).join(", ") || "–",
          },
          {
            title: w.signedIn,
            kind: "date",
            cell: (p) => (
              <>
                {p.last_sign_in ? `${format.date(p.last_sign_in)}, ${format.clock(p.last_sign_in)}` : w.never}
                {p.sessions > 0 && <Soft as="div">{w.sessions(p.sessions)}</Soft>}
              </>
            ),
          },
          { title: w.state, cell: (p) => (isBad(p) ? <Act>{stateOf(p)}</Act> : stateOf(p)) },
          {
            title: w.act,
            cell: (p) => (
              <Select
                aria-label={w.of(w.act, p.full_name)}
                value=""
                onChange={(e) => {
                  const what = e.target.value;
                  if (what === "active") change(p, { active: !p.active });
                  else if (what) way(p, oneOf(DOES, what));
                }}
              >
                <option value="">{w.act}</option>
                <option value="reset">{w.reset}</option>
                {!p.demo && <option value="expire">{w.expire}</option>}
                {p.sessions > 0 && <option value="sign-out">{w.signOut}</option>}
                {p.locked_until && <option value="lift">{w.lift}</option>}
                <option value="active">{p.active ? w.deactivate : w.activate}</option>
              </Select>
            ),
          },
        ]}
      />
      <PartTitle>{w.list}</PartTitle>
      <PeopleList />
    </>
  );
}

/** Where a way in stands: locked out, deactivated, due. */
function stateOf(p: Row) {
  if (!p.active) return w.states.inactive;
  if (p.locked_until) return w.locked(format.clock(p.locked_until));
  if (p.password_due) return w.states.due;
  return p.demo ? w.states.demo : w.states.active;
}

const isBad = (p: Row) => !p.active || p.locked_until !== null || p.password_due;
