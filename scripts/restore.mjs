// npm run restore -- FILE --data FOLDER: a backup into a new folder.
import { backUp } from "./tasks/backup.mjs";

await backUp("restore");
