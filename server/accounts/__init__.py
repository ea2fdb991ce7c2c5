"""People, roles, sign-in. Every other room asks accounts.roles what a person may do."""
