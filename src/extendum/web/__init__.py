"""The web application: views load a script, call the core, render a template."""
