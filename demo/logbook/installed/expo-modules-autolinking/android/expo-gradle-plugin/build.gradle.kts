// The plugin that sets the levels of generated projects.
