package flarvo.desktop;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.dispatch.DispatchStop;
import flarvo.desktop.stop.level.LevelStop;
import flarvo.desktop.stop.plate.PlateStop;
import flarvo.desktop.stop.proof.ProofStop;
import flarvo.desktop.stop.receive.ReceiveStop;
import flarvo.desktop.stop.trace.TraceStop;
import flarvo.desktop.stop.vet.VetStop;
import java.util.List;

/** The stops of the line, in its order. */
public final class Stops {

  private Stops() {}

  public static List<StopModule> all(Session session) {
    return List.of(
        new ReceiveStop(session),
        new TraceStop(session),
        new VetStop(session),
        new LevelStop(session),
        new PlateStop(session),
        new DispatchStop(session),
        new ProofStop(session));
  }
}
