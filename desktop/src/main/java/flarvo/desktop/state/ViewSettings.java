package flarvo.desktop.state;

import flarvo.desktop.theme.Theme;
import flarvo.plate.look.Look;
import flarvo.proof.ProofReport;
import flarvo.scene.PlateRole;
import flarvo.scene.Similarity;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableSet;

/** What the window shows of a shot, and how; nothing of it belongs to the shot. */
public final class ViewSettings {

  /** One plate in the whole picture. */
  public static final double NO_WIPE = -1;

  private final ObjectProperty<Theme> theme = new SimpleObjectProperty<>(Theme.DARK);
  private final ObjectProperty<PlateRole> plateRole =
      new SimpleObjectProperty<>(PlateRole.UNDISTORTED);
  private final BooleanProperty spaceShown = new SimpleBooleanProperty();
  private final BooleanProperty viewersShown = new SimpleBooleanProperty();
  private final DoubleProperty whiskers = new SimpleDoubleProperty(10);
  private final DoubleProperty errorLimitPx = new SimpleDoubleProperty(1);
  private final IntegerProperty trails = new SimpleIntegerProperty(0);
  private final BooleanProperty errorRings = new SimpleBooleanProperty();
  private final BooleanProperty tableShown = new SimpleBooleanProperty();
  private final BooleanProperty trackersShown = new SimpleBooleanProperty(true);
  private final BooleanProperty pictureAlone = new SimpleBooleanProperty();
  private final BooleanProperty handlesShown = new SimpleBooleanProperty(true);
  private final ObjectProperty<Similarity> tried = new SimpleObjectProperty<>();
  private final ObservableSet<String> hidden = FXCollections.observableSet();
  private final DoubleProperty wipe = new SimpleDoubleProperty(NO_WIPE);
  private final BooleanProperty difference = new SimpleBooleanProperty();
  private final ObjectProperty<Look> look = new SimpleObjectProperty<>(Look.NONE);
  private final BooleanProperty lensGrid = new SimpleBooleanProperty();
  private final ObjectProperty<Comparison> comparison =
      new SimpleObjectProperty<>(Comparison.OVERLAID);
  private final DoubleProperty divide = new SimpleDoubleProperty(0.5);
  private final BooleanProperty otherShown = new SimpleBooleanProperty();
  private final DoubleProperty proofLimitPx = new SimpleDoubleProperty(ProofReport.USUAL_LIMIT_PX);
  private final BooleanProperty platesShown = new SimpleBooleanProperty(true);

  public ObjectProperty<Theme> theme() {
    return theme;
  }

  public ObjectProperty<PlateRole> plateRole() {
    return plateRole;
  }

  public BooleanProperty spaceShown() {
    return spaceShown;
  }

  /** At Receive: picture and space in the ledger's place. */
  public BooleanProperty viewersShown() {
    return viewersShown;
  }

  /** How much longer whiskers are drawn than they are, 1 to 50. */
  public DoubleProperty whiskers() {
    return whiskers;
  }

  /** Frames before and after the playhead over which tracks are drawn; 0 for none. */
  public IntegerProperty trails() {
    return trails;
  }

  /** Rings as large as the error, stretched like the whiskers. */
  public BooleanProperty errorRings() {
    return errorRings;
  }

  /** At Vet: the table of trackers under the picture. */
  public BooleanProperty tableShown() {
    return tableShown;
  }

  public DoubleProperty errorLimitPx() {
    return errorLimitPx;
  }

  public BooleanProperty trackersShown() {
    return trackersShown;
  }

  /** At Level: one view in the whole room instead of Picture and Space side by side. */
  public BooleanProperty pictureAlone() {
    return pictureAlone;
  }

  /** At Level: the handles by which the world is taken hold of. */
  public BooleanProperty handlesShown() {
    return handlesShown;
  }

  /** A level that is only tried, while a handle is dragged or a guess is looked at; else null. */
  public ObjectProperty<Similarity> tried() {
    return tried;
  }

  /** Names of the sets of trackers that are not drawn. */
  public ObservableSet<String> hidden() {
    return hidden;
  }

  /**
   * Original plate at the left of it, undistorted at the right: a share of the picture's width, or
   * {@link #NO_WIPE}.
   */
  public DoubleProperty wipe() {
    return wipe;
  }

  /** Original and undistorted plate, one less the other: black where they are alike. */
  public BooleanProperty difference() {
    return difference;
  }

  /** At Proof: how source and recipient share the picture. */
  public ObjectProperty<Comparison> comparison() {
    return comparison;
  }

  /** Source at the left of it, recipient at the right: a share of the picture's width. */
  public DoubleProperty divide() {
    return divide;
  }

  /** While blinking: the recipient and not the source. */
  public BooleanProperty otherShown() {
    return otherShown;
  }

  /** Largest drift in pixels with which a delivery still holds. */
  public DoubleProperty proofLimitPx() {
    return proofLimitPx;
  }

  /** Exposure, gamma and look-up table of the plates on the screen. */
  public ObjectProperty<Look> look() {
    return look;
  }

  /** Whether the lens is shown as a grid that is straight in the undistorted picture. */
  public BooleanProperty lensGrid() {
    return lensGrid;
  }

  public BooleanProperty platesShown() {
    return platesShown;
  }
}
