package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FilmFit;
import flarvo.convention.FrameNumbering;
import flarvo.convention.LinearUnit;
import flarvo.convention.RatePolicy;
import flarvo.convention.SignedAxis;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.format.table.TableGuess;
import flarvo.lens.Division;
import flarvo.lens.Lens;
import flarvo.lens.LensModel;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.fit.StraightLine;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.ObjectScale;
import flarvo.motion.Parent;
import flarvo.motion.Parents;
import flarvo.motion.Recast;
import flarvo.motion.Retime;
import flarvo.motion.Stand;
import flarvo.motion.ZoomOn;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.OverscanRule;
import flarvo.plate.remap.Undistortion;
import flarvo.receive.Fact;
import flarvo.receive.Rulings;
import flarvo.report.StrictJson;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.GivenDepth;
import flarvo.stage.Staging;
import flarvo.trace.KeyedMatte;
import flarvo.trace.MaskShape;
import flarvo.trace.Mover;
import flarvo.vet.Culling;
import flarvo.vet.ExtraPoint;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.RobustLoss;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Every kind of decision and outcome goes through the file and comes back equal. */
class DecisionJsonTest {

  private static final Path FOLDER = Path.of("/shots/a");
  private static final DecisionJson JSON = new DecisionJson(FOLDER, Dialects.shipped());
  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final Similarity MOVE =
      new Similarity(2.5, Rotation.about(new Vec3(1, 2, 3), 0.7), new Vec3(0.1, -2, 3));

  private static final LensTrack LENS =
      new LensTrack(
          new Lens(new Division(-0.1, 0.02), Normalisation.HALF_DIAGONAL, 0.5, 0.48, 1.25),
          new TreeMap<>(Map.of(1, new Division(-0.1, 0.02), 9, new Division(-0.2, 0))));

  /** With everything that can be changed of a delivery without another dialect. */
  private static Delivery changed() {
    Dialect d = delivery().dialect();
    return delivery()
        .withDialect(
            d.withFrames(
                    new FrameNumbering(
                        OptionalInt.empty(), Optional.of(Rate.NTSC_24), RatePolicy.KEEP_SECONDS))
                .withUnit(new LinearUnit(1 / 30.0))
                .withCamera(Dialects.shipped().get("track-ydown-mm").camera())
                .withFilm(d.film().withFit(FilmFit.HEIGHT)))
        .withContents(
            Contents.of(Part.CAMERA, Part.CARD, Part.GAUGES)
                .withCard(OptionalDouble.of(12.5))
                .leavingOut(Set.of("floor", "post on t020"))
                .withClouds(Set.of("wall"))
                .withLocators(OptionalDouble.of(0.2)))
        .withExtract(Extract.behind(PlateRole.ORIGINAL).leavingOff(8, 12).levelled(false));
  }

  private static Delivery delivery() {
    Delivery d =
        new Delivery(
            "Animation",
            Dialects.shipped().get("anim-yup-cm"),
            Formats.byId("usd-text"),
            Contents.CAMERA,
            "a.usda");
    return d.withDialect(d.dialect().withFrames(d.dialect().frames().withFirstFrame(7)));
  }

  /** At least one of each kind. */
  private static List<Decision> all() {
    Anchor on = new Anchor.Tracker("t020");
    Anchor at = new Anchor.World(new Vec3(1, 0, -2.5));
    Statement along = new Statement.Along("a", "b", SignedAxis.NEGATIVE_Z);
    AdjustOptions options =
        AdjustOptions.USUAL
            .withFocal(AdjustOptions.Focal.PER_FRAME)
            .withLensTerms(2)
            .withLoss(RobustLoss.cauchy(0.75));
    return List.of(
        new ReceiveDecision.Rule(Fact.RATE, "24000/1001"),
        new ReceiveDecision.Rule(Fact.UNIT, (String) null),
        new ReceiveDecision.AcceptProposals(),
        new ReceiveDecision.SetPlateRole("a.####.jpg", PlateRole.KEYED),
        new ReceiveDecision.MapTable(
            FOLDER.resolve("in/tracks.txt"), TableGuess.of("a 1 0.5 0.25\nb 2 0.1 0.2\n")),
        new ReceiveDecision.AlignSolve(List.of(Path.of("/shots/b/v2.usdc"))),
        new ReceiveDecision.ReadAs(Optional.empty()),
        new ReceiveDecision.SnapKeys(true),
        new TraceDecision.MarkFeature("h01", PlateRole.ORIGINAL, 12, 1010, 100.25, 7.5),
        new TraceDecision.LimitFeature("h01", 1001, 1020),
        new TraceDecision.SearchArea("h01", OptionalDouble.of(24)),
        new TraceDecision.SearchArea("h01", OptionalDouble.empty()),
        new TraceDecision.RemoveFeature("h01"),
        new ReceiveDecision.SnapKeys(false),
        new MotionDecision.AddMovingObject(
            "cart", List.of(FOLDER.resolve("in/cart.usda")), new ObjectScale.Factor(0.25)),
        new MotionDecision.ScaleMovingObject("cart", new ObjectScale.Length("a", "b", 0.58)),
        new MotionDecision.ScaleMovingObject("cart", new ObjectScale.Away("a", 7, 3.5)),
        new MotionDecision.ScaleMovingObject("cart", new ObjectScale.OnGround("a", 7)),
        new MotionDecision.ScaleMovingObject(
            "cart", new ObjectScale.At("a", 7, new Vec3(1, 0, -2.5))),
        new MotionDecision.RemoveMovingObject("cart"),
        new ReturnDecision.UseMended(List.of(FOLDER.resolve("returns/anim_v03.fbx"))),
        new TraceDecision.DrawMask(
            PlateRole.ORIGINAL,
            new MaskShape(
                "mask 1",
                new TreeMap<>(
                    Map.of(
                        3,
                        new double[] {1, 2.5, 3, 4, 5, 6},
                        9,
                        new double[] {1, 2, 3, 4, 5, 7})))),
        new TraceDecision.DrawMaskOverAny(MaskShape.still("old", 1, 2, 3, 4, 5, 6)),
        new TraceDecision.RemoveMask("mask 1"),
        new TraceDecision.FollowPlane(
            PlateRole.ORIGINAL, MaskShape.still("p01", 10, 10, 90, 12, 88, 70, 9, 66)),
        new TraceDecision.RemovePlane("p01"),
        new TraceDecision.MaskSide(true),
        new TraceDecision.UseMatte(KeyedMatte.ALPHA),
        new TraceDecision.Follow(PlateRole.UNDISTORTED, 150, 8, 0.1),
        new TraceDecision.Forget(),
        new MoverDecision.FindMovers(OptionalDouble.of(1.25)),
        new MoverDecision.ReturnMover("mover 1"),
        new MoverDecision.SolveMover("mover 2", 0.5),
        new TraceDecision.SolvePlates(24, 13.5, OptionalDouble.empty(), 2, 0.5),
        new TraceDecision.SolvePlates(24, 13.5, OptionalDouble.of(35), 0, 0.5),
        new TraceDecision.SolveZoom(24, 13.5, 0.5),
        new ReceiveDecision.ReadAs(Dialects.shipped().find("engine-zup-left-cm")),
        new VetDecision.Cull(new Culling.Over(1.25)),
        new VetDecision.Cull(new Culling.KeepBest(0.9)),
        new VetDecision.Cull(new Culling.ShorterThan(8)),
        new VetDecision.Cull(new Culling.LittleParallax(0.02)),
        new VetDecision.Cull(new Culling.OnWhatMoves(0.6)),
        new VetDecision.Cull(
            new Culling.InRegion(List.of(0.0, 0.0, 9.0, 0.0, 9.0, 9.0), new FrameRange(3, 9))),
        new VetDecision.Cull(new Culling.ByHand(Set.of("b", "a"))),
        new VetDecision.Restore(Set.of("a")),
        new VetDecision.Weigh(Set.of("c", "d"), false),
        new VetDecision.PutInGroup("wall", TrackerGroup.Dot.KITE, 2, Set.of("a", "b")),
        new VetDecision.StyleGroup("wall", TrackerGroup.Dot.BAR, 3),
        new VetDecision.DissolveGroup("wall"),
        new VetDecision.Refine(options),
        new VetDecision.CullAndRefineTo(0.35, 8, AdjustOptions.USUAL),
        new VetDecision.RevertSolve(),
        new VetDecision.SolveFromTracks(true),
        new VetDecision.SmoothPath(new FrameRange(1001, 1010), 4, 0.5),
        new VetDecision.BridgePath(Set.of(1003, 1004)),
        new PointDecision.MarkPoint("floor", 1003, 100.25, 200.5),
        new PointDecision.RemovePoint("floor"),
        new PointDecision.TrackPoint("floor"),
        new PlateDecision.UseReceivedLens("lens.json"),
        new PlateDecision.TypeLens(LENS),
        new PlateDecision.FitMap(
            Path.of("/shots/a/in/map.exr"),
            flarvo.lens.Direction.ORIGINAL_TO_UNDISTORTED,
            flarvo.lens.LensModel.FISHEYE),
        new PlateDecision.UseRefinedLens(),
        new PlateDecision.UseNoLens(),
        new PlateDecision.TraceLine("edge 1", 1001, 3.5, 4, 100, 90.25),
        new PlateDecision.FindBoard(1003),
        new PlateDecision.FindEdges(1004),
        new PlateDecision.RemoveLines(List.of("edge 1")),
        new PlateDecision.FitLens(LensModel.RADIAL, List.of("k1", "k2"), true),
        new PlateDecision.Undistort(
            new Undistortion(Filter.LANCZOS, new OverscanRule.Fit(), Light.LINEAR, ".exr")),
        new PlateDecision.Undistort(
            new Undistortion(
                Filter.BICUBIC, new OverscanRule.Typed(2048, 1200), Light.ENCODED, "")),
        new LevelDecision.AddStatement(new Stated(along, false, 2)),
        new LevelDecision.ChangeStatement(along, new Stated(along), "switch on"),
        new LevelDecision.RemoveStatement(along),
        new LevelDecision.ApplyGuess(),
        new LevelDecision.MoveLevel(MOVE, "drag turn"),
        new LevelDecision.ResetLevel(LevelDecision.Part.TILT),
        new BuildDecision.PlaceGauge("post1", Gauge.Kind.POST, on),
        BuildDecision.ChangeGauge.size("post1", 1.5),
        new BuildDecision.ChangeGauge(
            "post1", OptionalDouble.empty(), OptionalDouble.of(0.5), Optional.of(at)),
        new BuildDecision.RemoveObject("post1"),
        new BuildDecision.AddCard("card1", "g", List.of(on, at, on)),
        new BuildDecision.AddBox("box1", "g", at, at, 0.5),
        new BuildDecision.AddWall("wall1", "g", on, at, 2),
        new BuildDecision.Extrude("card1", 0.3),
        new BuildDecision.MoveStandIn("card1", "t001", true),
        new BuildDecision.SendCorners("card1", true),
        new BuildDecision.AddLocators("mark", "marks", 0.2, List.of("t1", "t2")),
        new BuildDecision.ClearLocators(),
        new BuildDecision.GiveDepths(new BuildDecision.DepthSource.Typed(12), List.of("t1")),
        new BuildDecision.GiveDepths(new BuildDecision.DepthSource.Ground(), List.of()),
        new BuildDecision.GiveDepths(new BuildDecision.DepthSource.OnStandIn("box1"), List.of()),
        new BuildDecision.ClearDepths(),
        new BuildDecision.SetLight(231.25, 57.5),
        new BuildDecision.LightFromShadow("t1", "t2"),
        new DispatchDecision.AddDelivery(delivery()),
        new DispatchDecision.AddDelivery(delivery().withPlate(PlateRole.ORIGINAL)),
        new DispatchDecision.RemoveDelivery(0, "Animation"),
        new DispatchDecision.ChangeDelivery(0, "Animation", delivery(), "dialect"),
        new DispatchDecision.AddBoard("board of s2", List.of(delivery(), changed())),
        new DispatchDecision.WatchFiles(false),
        new DispatchDecision.ChangeDeliveries(List.of("Animation"), List.of(changed()), "scale"),
        new AsItStood(
            Rulings.NONE.with(Fact.RATE, "25"),
            Vetting.NONE.culling(Set.of("x")),
            Staging.NONE,
            List.of(delivery())));
  }

  private static DecisionLog log(List<Decision> decisions, Optional<Outcome> outcome) {
    return DecisionLog.renumbered(
        "base",
        decisions.stream()
            .map(
                d ->
                    new DecisionEntry(
                        1, d, "in", outcome, Optional.of(MOVE), Optional.empty(), List.of("m")))
            .toList());
  }

  private static DecisionLog back(DecisionLog log) throws Exception {
    JsonNode read = MAPPER.readTree(MAPPER.writeValueAsString(JSON.write(log)));
    return JSON.read(StrictJson.of(read, "decisions"));
  }

  @Test
  void everyDecisionComesBackEqual() throws Exception {
    DecisionLog log = log(all(), Optional.empty());
    assertThat(back(log)).isEqualTo(log);
    assertThat(all().stream().map(Decision::code).collect(Collectors.toSet()))
        .as("a sample of each kind")
        .isEqualTo(DecisionTypes.kinds(Decision.class).keySet());
  }

  /** One change at a time, so that none hides behind another. */
  @Test
  void everyChangeOfADeliveryComesBackEqual() throws Exception {
    Delivery d = delivery();
    Dialect x = d.dialect();
    FrameNumbering n = x.frames();
    List<Delivery> all = new ArrayList<>();
    for (Dialect other : Dialects.shipped().all()) {
      all.add(d.withDialect(other));
      all.add(d.withDialect(other.withUnit(new LinearUnit(0.3))));
      all.add(d.withDialect(other.withFrames(FrameNumbering.PLATE)));
      all.add(d.withDialect(x.withCamera(other.camera())));
      all.add(d.withDialect(x.withUnitOf(other)));
      all.add(d.withDialect(x.withFilm(other.film())));
      all.add(d.withDialect(x.withWorld(other.world())));
      all.add(d.withDialect(x.withRotation(other.rotationOrder(), other.angles())));
    }
    all.add(
        d.withDialect(
            x.withFrames(new FrameNumbering(n.firstFrame(), n.rate(), RatePolicy.KEEP_SECONDS))));
    all.add(d.withExtract(Extract.WHOLE.leavingOff(8, 0)));
    all.add(d.withExtract(Extract.WHOLE.levelled(false)));
    Recast none = Recast.NONE;
    for (Recast r :
        List.of(
            none.withHeld(Optional.of(Held.camera(1010))),
            none.withHeld(Optional.of(Held.group("cart", -4))),
            none.withHeld(
                Optional.of(Held.camera(new Stand.At(new Vec3(1, 2.5, -3), 10, -5, 0.125)))),
            none.withHeld(Optional.of(Held.camera(new Stand.As("witness")))),
            none.withParents(
                new Parents(
                    true,
                    Optional.of("cart"),
                    Optional.of(
                        new Parent(
                            "rig",
                            new Similarity(
                                100, Rotation.normalized(1, 0.5, 0, 0), new Vec3(1, 2, 3)))))),
            none.withParents(Parents.NONE.baked(true)),
            none.withZoom(ZoomOn.FILM_BACK),
            none.withFraming(Optional.of(new Framing(-200.5, 0.1, 960, 540, 1280, 720))),
            none.withRetime(Optional.of(new Retime(7, new double[] {1001, 1002.5, 999}))))) {
      all.add(d.withExtract(Extract.WHOLE.recast(r)));
    }
    all.add(d.withDialect(x.named("ours")));
    all.add(d.withDialect(Dialect.CANONICAL));
    for (Delivery one : all) {
      JsonNode node = MAPPER.readTree(JSON.write(one).toString());
      assertThat(JSON.delivery(StrictJson.of(node, ""))).isEqualTo(one);
    }
  }

  /** The words in files are their own: none of them follows from a name in the code. */
  @Test
  void theWordsInFilesAreTheseForEver() {
    assertThat(DecisionTypes.kinds(Decision.class).keySet())
        .isEqualTo(
            new TreeSet<>(
                Arrays.asList(
                    ("accept-proposals add-board add-box add-card add-delivery add-locators add-moving-object"
                            + " add-statement"
                            + " add-wall align-solve apply-guess as-it-stood bridge-path"
                            + " change-deliveries change-delivery change-gauge change-statement clear-depths"
                            + " clear-locators cull cull-and-refine dissolve-group draw-mask extrude"
                            + " find-board find-edges find-movers fit-lens fit-lens-to-map follow-features follow-plane forget-features give-depths light-from-shadow limit-feature map-table mark-feature mark-point mask-plates mask-side move-level move-stand-in"
                            + " place-gauge put-in-group read-as refine remove-delivery remove-feature remove-lines remove-mask remove-moving-object"
                            + " remove-object remove-plane remove-point remove-statement reset-level restore return-mover revert-solve"
                            + " rule scale-moving-object search-area send-corners set-light set-plate-role smooth-path snap-keys solve-from-tracks solve-mover solve-plates solve-zoom"
                            + " style-group trace-line track-point type-lens undistort"
                            + " use-matte use-mended use-no-lens use-received-lens use-refined-lens watch-files weigh")
                        .split(" "))));
    assertThat(Set.copyOf(DecisionTypes.CULLING.values()))
        .isEqualTo(Set.of(Culling.class.getPermittedSubclasses()));
    assertThat(
            JSON.write(
                    log(
                        List.of(
                            new VetDecision.Refine(
                                AdjustOptions.USUAL.withFocal(AdjustOptions.Focal.PER_FRAME)),
                            new LevelDecision.ResetLevel(LevelDecision.Part.PLACE),
                            new VetDecision.StyleGroup("w", TrackerGroup.Dot.WEDGE, 1)),
                        Optional.empty()))
                .toString())
        .contains(
            "{\"decision\":\"refine\",\"options\":{\"tripod\":false,\"focal\":\"per-frame\","
                + "\"principalPoint\":false,\"lensTerms\":0,\"loss\":{\"kind\":\"square\","
                + "\"scalePx\":1.0},\"rounds\":60,\"tolerance\":1.0E-9}}",
            "{\"decision\":\"reset-level\",\"part\":\"place\"}",
            "{\"decision\":\"style-group\",\"group\":\"w\",\"dot\":\"wedge\",\"tint\":1}");
  }

  @Test
  void everyOutcomeComesBackEqual() throws Exception {
    List<Outcome> outcomes =
        List.of(
            new Outcome.Trackers(Set.of("b", "a")),
            new Outcome.Point(
                new ExtraPoint("floor", List.of(new ExtraPoint.Mark(3, 1.5, 2.5, true)))),
            new Outcome.Movers(List.of(new Mover("mover 1", List.of("f001", "f002")))),
            new Outcome.Features(
                new Observations.Builder()
                    .add("f1", 3, 1.25, 2)
                    .add("f1", 5, 1.5, -2)
                    .add("f2", 3, 7, 8)
                    .build(),
                List.of("frame 4 is missing")),
            new Outcome.Ruled(Rulings.NONE.with(Fact.UP_AXIS, "+Z")),
            new Outcome.Level(MOVE),
            new Outcome.Line(new StraightLine("edge 1", 3, 1, 2, 3, 4.5, 6, 7)),
            new Outcome.Lines(List.of(new StraightLine("row 1", 3, 1, 2, 3, 4.5))),
            new Outcome.FittedLens(LENS, 0.125, 9),
            new Outcome.MapLens(LENS, 0.25, 0.125, 0.75),
            new Outcome.Undistorted(
                PictureSize.of(2048, 1200),
                3,
                1,
                new TreeMap<>(Map.of(1003, "cut off")),
                Optional.empty()),
            new Outcome.Depths(List.of(new GivenDepth("a", 3.25, "typed"))),
            new Outcome.Alignment(MOVE, "words", Optional.empty()),
            new Outcome.Table(Optional.empty()),
            new Outcome.Reread(Optional.empty()));
    for (Outcome o : outcomes) {
      DecisionLog log = log(List.of(new ReceiveDecision.AcceptProposals()), Optional.of(o));
      assertThat(back(log)).as(o.code()).isEqualTo(log);
    }
  }

  @Test
  void pathsAreRelativeToTheProject() {
    String text = JSON.write(log(all(), Optional.empty())).toString();
    assertThat(text).contains("\"in/tracks.txt\"", "\"../b/v2.usdc\"").doesNotContain("/shots/");
  }

  /** What cannot be read is one error that names the place; nothing falls back on a default. */
  @Test
  void badValuesAreErrorsWithTheirPlace() throws Exception {
    String good = JSON.write(log(all(), Optional.empty())).toString();
    Map<String, String> bad =
        Map.of(
            "\"decision\":\"refine\"", "\"decision\":\"polish\"",
            "\"limitPx\":1.25", "\"limitPx\":\"wide\"",
            "\"driftPx\":0.6", "\"driftPx\":null",
            "\"focal\":\"per-frame\"", "\"focal\":\"some\"",
            "\"fact\":\"rate\"", "\"fact\":\"colour\"",
            "\"minLive\":8", "\"minLive\":8.5",
            "\"share\":0.9", "\"share\":1.9",
            "\"dialect\":\"anim-yup-cm\"", "\"dialect\":\"martian\"",
            "\"scale\":2.5", "\"scale\":0",
            "\"principalPoint\":false,", "");
    bad = new TreeMap<>(bad);
    bad.put("\"overscan\":\"fit\"", "\"overscan\":\"wide\"");
    bad.put("\"model\":\"division\"", "\"model\":\"mirror\"");
    bad.put("\"filter\":\"lanczos\"", "\"filter\":\"sharp\"");
    for (Map.Entry<String, String> e : bad.entrySet()) {
      String broken = good.replace(e.getKey(), e.getValue());
      assertThat(broken).as(e.getValue()).isNotEqualTo(good);
      JsonNode n = MAPPER.readTree(broken);
      assertThatThrownBy(() -> JSON.read(StrictJson.of(n, "decisions")))
          .as(e.getValue())
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageContaining("decisions.entries[");
    }
  }
}
