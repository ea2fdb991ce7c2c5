"""The projects room: beginning a project, its own page with its registers, templates and the organisation's states."""
