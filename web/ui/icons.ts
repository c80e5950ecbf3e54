// One by one: the package's index would make every build read some two thousand icons.
export { default as ArrowDown } from "lucide-react/dist/esm/icons/arrow-down";
export { default as ArrowUp } from "lucide-react/dist/esm/icons/arrow-up";
export { default as CircleCheck } from "lucide-react/dist/esm/icons/circle-check";
export { default as CircleQuestionMark } from "lucide-react/dist/esm/icons/circle-question-mark";
export { default as FileUp } from "lucide-react/dist/esm/icons/file-up";
export { default as Moon } from "lucide-react/dist/esm/icons/moon";
export { default as OctagonX } from "lucide-react/dist/esm/icons/octagon-x";
export { default as Plus } from "lucide-react/dist/esm/icons/plus";
export { default as Redo2 } from "lucide-react/dist/esm/icons/redo-2";
export { default as Search } from "lucide-react/dist/esm/icons/search";
export { default as Sun } from "lucide-react/dist/esm/icons/sun";
export { default as Trash2 } from "lucide-react/dist/esm/icons/trash-2";
export { default as TriangleAlert } from "lucide-react/dist/esm/icons/triangle-alert";
export { default as Undo2 } from "lucide-react/dist/esm/icons/undo-2";
