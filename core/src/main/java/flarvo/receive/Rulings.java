package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;

/** What was decided, each as it is typed. */
public record Rulings(Map<Fact, String> texts) {

  public static final Rulings NONE = new Rulings(Map.of());

  public Rulings {
    EnumMap<Fact, String> copy = new EnumMap<>(Fact.class);
    copy.putAll(texts);
    copy.forEach(Fact::parse); // a ruling that means nothing never comes to be
    texts = Collections.unmodifiableMap(copy);
  }

  /** The ruling on a fact, as it was typed. */
  public Optional<String> of(Fact fact) {
    return Optional.ofNullable(texts.get(fact));
  }

  /** Null takes a ruling back. */
  public Rulings with(Fact fact, String text) {
    Map<Fact, String> m = new EnumMap<>(Fact.class);
    m.putAll(texts);
    if (text == null) {
      m.remove(fact);
    } else {
      m.put(fact, text);
    }
    return new Rulings(m);
  }

  /** The options that these rulings make of others, which they overrule. */
  public IntakeOptions over(IntakeOptions base) {
    IntakeOptions o = base;
    for (Map.Entry<Fact, String> e : texts.entrySet()) {
      Object v = e.getKey().parse(e.getValue());
      o =
          switch (e.getKey()) {
            case TAKE -> o.withTake((String) v);
            case CAMERA -> o.withCamera((String) v);
            case RATE -> o.withRate((Rate) v);
            case FIRST_FRAME -> o.withPlateFirst((Integer) v);
            case PICTURE_SIZE -> o.withSize((PictureSize) v);
            case PIXEL_ASPECT -> o.withPixelAspect((Double) v);
            case FILM_BACK -> o.withFilmBack((FilmBack) v);
            case UP_AXIS -> o.withUp((SignedAxis) v);
            case UNIT -> o.withUnit((LinearUnit) v);
            default -> o;
          };
    }
    return o;
  }
}
