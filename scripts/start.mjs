// npm start: the application on the user's own data folder.
import { ownDataFolder } from "./tasks/folders.mjs";
import { serve } from "./tasks/serve.mjs";

await serve({ demo: false, folder: ownDataFolder(), port: 8417 });
