// Who signs in, what each may see and do, and the audit trail.
export { PeopleScreen } from "./PeopleScreen";
export { ProjectAccess } from "./ProjectAccess";
