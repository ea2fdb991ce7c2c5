// The controls of the application: Chakra's, in our own recipes. Rooms use these and no bare elements.
export { Anchor, Button, Input, Select, Table, Textarea } from "./controls";
export { type DataColumn, DataTable } from "./DataTable";
export { Files } from "./Files";
export { OnOff } from "./OnOff";
export * from "./parts";
export { styled } from "./styled";
export { PartBar, PartLinks, Tabs } from "./Tabs";
