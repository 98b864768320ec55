package flarvo.format.table;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.AngleUnit;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;

/** A mapping as JSON: the form it has in projects and on the shelf. */
public final class TableMappingJson {

  private static final int MOST_COLUMNS = 1000;

  private TableMappingJson() {}

  public static ObjectNode write(TableMapping m) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("name", m.name());
    ObjectNode layout = o.putObject("layout").put("between", m.layout().between().word());
    layout.put("skip", m.layout().skip()).put("header", m.layout().header());
    layout.put("decimalComma", m.layout().decimalComma());
    if (!m.layout().cuts().isEmpty()) {
      ArrayNode cuts = layout.putArray("cuts");
      m.layout().cuts().forEach(cuts::add);
    }
    ArrayNode columns = o.putArray("columns");
    m.columns().forEach(c -> columns.add((c.negated() ? "-" : "") + c.role().word()));
    o.putObject("pixels")
        .put("origin", m.pixels().origin().word())
        .put("up", m.pixels().up())
        .put("scale", m.pixels().scale().word())
        .put("centres", m.pixels().centres());
    o.put("angles", m.angles().word()).put("order", m.order().toString());
    o.put("focal", m.focal().word()).put("frameShift", m.frameShift());
    m.unit().ifPresent(u -> o.put("unit", u.name().orElse(Double.toString(u.metresPerUnit()))));
    m.up().ifPresent(u -> o.put("up", u.toString()));
    m.picture()
        .ifPresent(
            p ->
                o.put("picture", p.width() + "x" + p.height()).put("pixelAspect", p.pixelAspect()));
    m.film().ifPresent(f -> o.putArray("filmMm").add(f.widthMm()).add(f.heightMm()));
    return o;
  }

  /**
   * @throws IllegalArgumentException with a sentence for the user when it is no mapping
   */
  public static TableMapping read(JsonNode n) {
    JsonNode l = n.path("layout");
    List<Integer> cuts = new ArrayList<>();
    l.path("cuts").forEach(c -> cuts.add(c.asInt(-1)));
    TableLayout layout =
        new TableLayout(
            TableLayout.Between.of(l.path("between").asText()),
            l.path("skip").asInt(0),
            l.path("header").asBoolean(false),
            l.path("decimalComma").asBoolean(false),
            cuts);
    List<TableColumn> columns = new ArrayList<>();
    for (JsonNode c : n.path("columns")) {
      String word = c.asText();
      boolean negated = word.startsWith("-");
      columns.add(new TableColumn(ColumnRole.of(negated ? word.substring(1) : word), negated));
      if (columns.size() > MOST_COLUMNS) {
        throw new IllegalArgumentException("a mapping of more than " + MOST_COLUMNS + " columns");
      }
    }
    JsonNode p = n.path("pixels");
    return new TableMapping(
        n.path("name").asText(""),
        layout,
        columns,
        new PixelReading(
            word(p, "origin", PixelReading.Origin.values(), PixelReading.Origin::word),
            p.path("up").asBoolean(false),
            word(p, "scale", PixelReading.Scale.values(), PixelReading.Scale::word),
            p.path("centres").asBoolean(false)),
        word(n, "angles", AngleUnit.values(), AngleUnit::word),
        RotationOrder.parse(n.path("order").asText("XYZ")),
        word(n, "focal", FocalReading.values(), FocalReading::word),
        n.path("frameShift").asInt(0),
        text(n, "unit").map(LinearUnit::parse),
        text(n, "up").map(SignedAxis::parse),
        text(n, "picture")
            .map(PictureSize::parse)
            .map(
                size ->
                    new PictureSize(
                        size.width(), size.height(), n.path("pixelAspect").asDouble(1))),
        n.path("filmMm").size() == 2
            ? Optional.of(
                new FilmBack(
                    n.path("filmMm").get(0).asDouble(Double.NaN),
                    n.path("filmMm").get(1).asDouble(Double.NaN)))
            : Optional.empty());
  }

  private static Optional<String> text(JsonNode n, String member) {
    return n.path(member).isTextual() ? Optional.of(n.path(member).asText()) : Optional.empty();
  }

  /** Left out means the first of them. */
  private static <E> E word(JsonNode n, String member, E[] all, Function<E, String> word) {
    Optional<String> text = text(n, member);
    if (text.isEmpty()) {
      return all[0];
    }
    for (E e : all) {
      if (word.apply(e).equals(text.get())) {
        return e;
      }
    }
    throw new IllegalArgumentException(
        String.format(Locale.ROOT, "'%s' cannot be '%s'", member, text.get()));
  }
}
