// The Moves: where one types to find. Everything else is links and forms.
import { deeds } from "./keys.js";

deeds({ search: () => document.getElementById("q")?.focus() });
