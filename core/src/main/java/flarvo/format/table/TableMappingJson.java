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
import flarvo.report.StrictJson;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** A mapping as JSON: the form it has in projects and on the shelf. */
public final class TableMappingJson {

  private static final int MOST_COLUMNS = 1000;

  private TableMappingJson() {}

  /** As {@link #read} takes it. */
  public static ObjectNode write(TableMapping m) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("name", m.name());
    ObjectNode layout = o.putObject("layout").put("between", m.layout().between().word());
    layout.put("skip", m.layout().skip()).put("header", m.layout().header());
    layout.put("decimalComma", m.layout().decimalComma());
    if (m.layout().shape() != TableShape.ROWS) {
      layout.put("shape", m.layout().shape().word());
    }
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
    m.rate().ifPresent(r -> o.put("rate", r.toString()));
    m.film().ifPresent(f -> o.putArray("filmMm").add(f.widthMm()).add(f.heightMm()));
    return o;
  }

  /**
   * @throws IllegalArgumentException with a sentence for the user when it is no mapping
   */
  public static TableMapping read(JsonNode node) {
    StrictJson n = StrictJson.of(node, "");
    StrictJson l = n.member("layout");
    TableLayout layout =
        new TableLayout(
            TableLayout.Between.of(l.text("between")),
            l.optionalInteger("skip").orElse(0),
            l.flag("header", false),
            l.flag("decimalComma", false),
            l.list("cuts", StrictJson::integer),
            l.optional("shape").map(StrictJson::text).map(TableShape::of).orElse(TableShape.ROWS));
    List<TableColumn> columns = n.list("columns", TableMappingJson::column);
    if (columns.size() > MOST_COLUMNS) {
      throw n.error("a mapping of more than " + MOST_COLUMNS + " columns");
    }
    Optional<StrictJson> p = n.optional("pixels");
    return new TableMapping(
        text(n, "name").orElse(""),
        layout,
        columns,
        new PixelReading(
            word(p, "origin", PixelReading.Origin.values(), PixelReading.Origin::word),
            p.map(x -> x.flag("up", false)).orElse(false),
            word(p, "scale", PixelReading.Scale.values(), PixelReading.Scale::word),
            p.map(x -> x.flag("centres", false)).orElse(false)),
        word(Optional.of(n), "angles", AngleUnit.values(), AngleUnit::word),
        RotationOrder.parse(text(n, "order").orElse("XYZ")),
        word(Optional.of(n), "focal", FocalReading.values(), FocalReading::word),
        n.optionalInteger("frameShift").orElse(0),
        text(n, "unit").map(LinearUnit::parse),
        text(n, "up").map(SignedAxis::parse),
        text(n, "picture").map(PictureSize::parse).map(size -> aspect(size, n)),
        n.optional("filmMm").map(f -> f.numbers(2)).map(f -> new FilmBack(f[0], f[1])),
        text(n, "rate").map(Rate::parse));
  }

  private static TableColumn column(StrictJson c) {
    String word = c.text();
    boolean negated = word.startsWith("-");
    return new TableColumn(ColumnRole.of(negated ? word.substring(1) : word), negated);
  }

  private static PictureSize aspect(PictureSize size, StrictJson n) {
    return new PictureSize(
        size.width(), size.height(), n.optional("pixelAspect").map(StrictJson::number).orElse(1.0));
  }

  private static Optional<String> text(StrictJson n, String member) {
    return n.optional(member).map(StrictJson::text);
  }

  /** Left out means the first of them. */
  private static <E> E word(
      Optional<StrictJson> n, String member, E[] all, Function<E, String> word) {
    return n.flatMap(x -> x.optional(member)).map(x -> x.word(all, word)).orElse(all[0]);
  }
}
