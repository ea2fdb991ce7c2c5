import { useState } from "react";
import { Problem, type Schemas } from "../../api";
import { ChoiceLine, DataTable, Input, Select, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.people;

interface Props {
  members: Schemas["MembersOut"];
  keep: (form: Schemas["MembersForm"]) => Promise<unknown>;
}

/** Who sees a project and what each may do there; whoever may not say so reads it. */
export function Members({ members, keep }: Props) {
  const [wrong, setWrong] = useState("");
  const may = members.may_change;
  const put = async (members_only: boolean, roles: Schemas["MembersForm"]["roles"]) => {
    try {
      await keep({ members_only, roles });
      setWrong("");
    } catch (no) {
      if (!(no instanceof Problem)) throw no;
      setWrong(no.message);
    }
  };
  return (
    <>
      <ChoiceLine>
        <Input
          type="checkbox"
          look="bare"
          disabled={!may}
          checked={members.members_only}
          onChange={(e) => put(e.target.checked, {})}
        />
        {w.onlyMembers}
      </ChoiceLine>
      {wrong && <Why role="alert">{wrong}</Why>}
      <DataTable
        aria-label={w.members}
        maxW="640px"
        rows={members.people}
        keyOf={(m) => m.username}
        columns={[
          {
            title: w.name,
            cell: (m) => (
              <>
                {m.full_name} <Soft>{m.username}</Soft>
              </>
            ),
          },
          {
            title: w.ownRole,
            cell: (m) =>
              may ? (
                <Select
                  aria-label={w.of(w.ownRole, m.full_name)}
                  value={m.own ?? ""}
                  onChange={(e) =>
                    put(members.members_only, {
                      [m.username]: (e.target.value || null) as NonNullable<Schemas["MembersForm"]["roles"]>[string],
                    })
                  }
                >
                  <option value="">
                    {members.members_only || m.own
                      ? w.asOutside(members.members_only)
                      : w.asEverywhere(w.roles[m.role ?? ""])}
                  </option>
                  {Object.entries(w.memberRoles).map(([key, word]) => (
                    <option key={key} value={key}>
                      {word}
                    </option>
                  ))}
                </Select>
              ) : (
                w.memberRoles[m.role ?? ""]
              ),
          },
        ]}
      />
    </>
  );
}
