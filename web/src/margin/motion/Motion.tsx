import type { Lane } from "../../api/gen/schema.gen";
import type { Lane as LaneView } from "../../api/gen/view.gen";
import { laneFacts } from "../../api/facts";
import { LaneStarter } from "./LaneStarter";
import { Bypass } from "./Bypass";
import { Luck } from "./Luck";
import { Modulators } from "./Modulators";
import { RangeFields } from "./RangeFields";
import { ShareFields } from "./ShareFields";

/** What moves a lane: modulators, luck, the range it keeps to, its share of the groove. */
export function Motion({ lane, view }: { lane: Lane; view: LaneView }) {
  const fact = laneFacts(lane.kind);
  return (
    <>
      {fact.modulators && <Modulators lane={lane} view={view} />}
      {fact.odds && <Luck lane={lane} view={view} />}
      {fact.range && <RangeFields lane={lane} view={view} />}
      <Bypass lane={lane} />
      <LaneStarter lane={lane} />
      {fact.share && <ShareFields lane={lane} view={view} />}
    </>
  );
}
