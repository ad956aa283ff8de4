import { NoView } from "../../ui/shell/no-view";

export default function NotFound() {
  return <NoView />;
}
