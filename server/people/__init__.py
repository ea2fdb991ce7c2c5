"""People and access: who signs in, what each may see and do, and the audit trail. For administrators, and for approvers their project."""
