// npm run backup -- FILE: everything in one file, whether the server runs or not. --data FOLDER names another folder.
import { backUp } from "./tasks/backup.mjs";

await backUp("make");
