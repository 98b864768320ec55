package flarvo.decision;

import com.fasterxml.jackson.annotation.JsonAutoDetect;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.Version;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JavaType;
import com.fasterxml.jackson.databind.JsonDeserializer;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.MapperFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.jsontype.NamedType;
import com.fasterxml.jackson.databind.jsontype.TypeSerializer;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.format.table.TableMapping;
import flarvo.format.table.TableMappingJson;
import flarvo.lens.LensModel;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.fit.StraightLine;
import flarvo.level.SimilarityJson;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.level.StatementJson;
import flarvo.motion.ObjectScale;
import flarvo.plate.remap.OverscanRule;
import flarvo.receive.Fact;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import flarvo.trace.MaskJson;
import flarvo.trace.MaskShape;
import flarvo.vet.Culling;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Vetting;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;

/** How each type that a decision or an outcome holds is spelled in JSON. */
final class DecisionTypes {

  private DecisionTypes() {}

  /** The kind of a decision stands beside its members. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "decision")
  private interface DecisionTag {}

  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "outcome")
  private interface OutcomeTag {}

  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "by")
  private interface ByTag {}

  /** Criteria of culling, by the words that files know them by. */
  static final Map<String, Class<? extends Culling>> CULLING =
      Map.of(
          "over", Culling.Over.class,
          "keep-best", Culling.KeepBest.class,
          "shorter-than", Culling.ShorterThan.class,
          "little-parallax", Culling.LittleParallax.class,
          "slipping", Culling.OnWhatMoves.class,
          "in-region", Culling.InRegion.class,
          "by-hand", Culling.ByHand.class);

  /** Every record of a sealed family by the word that files know it by. */
  static Map<String, Class<?>> kinds(Class<?> family) {
    Map<String, Class<?>> out = new TreeMap<>();
    collect(family, out);
    return out;
  }

  private static void collect(Class<?> type, Map<String, Class<?>> out) {
    if (type.isSealed()) {
      for (Class<?> c : type.getPermittedSubclasses()) {
        collect(c, out);
      }
      return;
    }
    DecisionCode code = type.getAnnotation(DecisionCode.class);
    if (code == null) {
      throw new IllegalStateException(type + " has no word for files");
    }
    if (out.put(code.value(), type) != null) {
      throw new IllegalStateException("two kinds are '" + code.value() + "'");
    }
  }

  static ObjectMapper mapper(
      Function<Path, String> spell, Function<String, Path> resolve, Dialects dialects) {
    DeliveryJson deliveries = new DeliveryJson(dialects);
    SimpleModule m = new SimpleModule("decisions", Version.unknownVersion());
    Codec.of(Path.class, p -> text(spell.apply(p)), n -> resolve.apply(n.text())).add(m);
    Codec.of(Vec3.class, DecisionTypes::vector, DecisionTypes::vector).add(m);
    Codec.of(Similarity.class, SimilarityJson::write, SimilarityJson::read).add(m);
    Codec.of(
            Fact.class,
            f -> text(f.id()),
            n -> n.word(Fact.values().toArray(new Fact<?>[0]), Fact::id))
        .add(m);
    Codec.of(PlateRole.class, r -> text(r.word()), n -> n.word(PlateRole.values(), PlateRole::word))
        .add(m);
    Codec.of(Rulings.class, DecisionTypes::rulings, DecisionTypes::rulings).add(m);
    Codec.of(TableMapping.class, TableMappingJson::write, n -> TableMappingJson.read(n.node()))
        .add(m);
    Codec.of(Stated.class, StatementJson::write, StatementJson::read).add(m);
    Codec.of(
            Statement.class,
            s -> StatementJson.write(new Stated(s)),
            n -> StatementJson.read(n).what())
        .add(m);
    Codec.of(
            Dialect.class,
            DialectJson::write,
            n -> DialectJson.read(n.node(), "the sender's dialect"))
        .add(m);
    Codec.of(ObjectScale.class, ObjectScaleJson::write, ObjectScaleJson::read).add(m);
    Codec.of(Anchor.class, DecisionTypes::anchor, DecisionTypes::anchor).add(m);
    Codec.of(Delivery.class, deliveries::write, deliveries::read).add(m);
    Codec.of(Vetting.class, VettingJson::write, VettingJson::read).add(m);
    Codec.of(Staging.class, StagingJson::write, StagingJson::read).add(m);
    Codec.of(StandIn.class, StagingJson::write, StagingJson::standIn).add(m);
    Codec.of(RefinedSolve.class, VettingJson::solve, VettingJson::solve).add(m);
    Codec.of(LensTrack.class, LensSheet::document, DecisionTypes::lens).add(m);
    Codec.of(LensModel.class, l -> text(l.code()), n -> n.word(LensModel.values(), LensModel::code))
        .add(m);
    Codec.of(StraightLine.class, DecisionTypes::line, DecisionTypes::line).add(m);
    Codec.of(MaskShape.class, MaskJson::write, MaskJson::read).add(m);
    Codec.of(Observations.class, ObservationsJson::write, ObservationsJson::read).add(m);
    Codec.of(OverscanRule.class, r -> text(r.word()), DecisionTypes::overscan).add(m);
    Codec.of(PlateSequence.class, s -> JsonNodeFactory.instance.nullNode(), n -> null).add(m);
    Codec.of(ReceivedSet.class, s -> JsonNodeFactory.instance.nullNode(), n -> null).add(m);
    Codec.of(ReceivedFile.class, s -> JsonNodeFactory.instance.nullNode(), n -> null).add(m);
    m.addSerializer(Set.class, new SortedSets());
    m.addSerializer(Enum.class, new Words());
    m.setDeserializerModifier(new WordsModifier());
    JsonMapper out =
        JsonMapper.builder()
            .addModules(new Jdk8Module(), m)
            .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
            .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
            .disable(MapperFeature.AUTO_DETECT_GETTERS, MapperFeature.AUTO_DETECT_IS_GETTERS)
            .enable(
                DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES,
                DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES,
                DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .visibility(
                com.fasterxml.jackson.annotation.PropertyAccessor.FIELD,
                JsonAutoDetect.Visibility.ANY)
            .addMixIn(Decision.class, DecisionTag.class)
            .addMixIn(Outcome.class, OutcomeTag.class)
            .addMixIn(Culling.class, ByTag.class)
            .addMixIn(BuildDecision.DepthSource.class, ByTag.class)
            .build();
    for (Class<?> family :
        List.of(Decision.class, Outcome.class, BuildDecision.DepthSource.class)) {
      kinds(family).forEach((word, c) -> out.registerSubtypes(new NamedType(c, word)));
    }
    CULLING.forEach((word, c) -> out.registerSubtypes(new NamedType(c, word)));
    return out;
  }

  private static JsonNode text(String s) {
    return JsonNodeFactory.instance.textNode(s);
  }

  private static ArrayNode vector(Vec3 v) {
    return JsonNodeFactory.instance.arrayNode().add(v.x()).add(v.y()).add(v.z());
  }

  private static Vec3 vector(StrictJson n) {
    double[] v = n.numbers(3);
    return new Vec3(v[0], v[1], v[2]);
  }

  private static ObjectNode rulings(Rulings r) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    r.texts().forEach((fact, words) -> o.put(fact.id(), words));
    return o;
  }

  static Rulings rulings(StrictJson n) {
    Map<Fact<?>, String> out = new LinkedHashMap<>();
    n.members(StrictJson::text)
        .forEach(
            (id, words) ->
                out.put(Fact.of(id).orElseThrow(() -> n.error("no fact '" + id + "'")), words));
    return new Rulings(out);
  }

  private static LensTrack lens(StrictJson n) {
    try {
      return LensSheet.of(Path.of("lens"), n.node()).track();
    } catch (InputError e) {
      throw n.error(e.reason());
    }
  }

  private static ObjectNode line(StraightLine l) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("name", l.name()).put("frame", l.frame());
    ArrayNode xy = o.putArray("points");
    for (double v : l.points()) {
      xy.add(v);
    }
    return o;
  }

  private static StraightLine line(StrictJson n) {
    double[] xy = n.member("points").numbers();
    if (xy.length % 2 != 0) {
      throw n.member("points").error("x and y of each point expected");
    }
    return new StraightLine(n.text("name"), n.integer("frame"), xy);
  }

  private static OverscanRule overscan(StrictJson n) {
    try {
      return OverscanRule.parse(n.text());
    } catch (IllegalArgumentException e) {
      throw n.error("none, fit, WxH or WxH+X+Y expected");
    }
  }

  private static ObjectNode anchor(Anchor a) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    return a.accept(
        new Anchor.Visitor<>() {
          @Override
          public ObjectNode tracker(Anchor.Tracker t) {
            return o.put("tracker", t.name());
          }

          @Override
          public ObjectNode world(Anchor.World w) {
            return o.set("world", vector(w.metres()));
          }
        });
  }

  private static Anchor anchor(StrictJson n) {
    return n.has("tracker")
        ? new Anchor.Tracker(n.text("tracker"))
        : new Anchor.World(vector(n.member("world")));
  }

  /** A type that has a form of its own. */
  private record Codec<T>(
      Class<T> type, Function<T, JsonNode> write, Function<StrictJson, T> read) {

    static <T> Codec<T> of(
        Class<T> type, Function<T, ? extends JsonNode> write, Function<StrictJson, T> read) {
      return new Codec<>(type, write::apply, read);
    }

    void add(SimpleModule m) {
      m.addSerializer(
          type,
          new JsonSerializer<T>() {
            @Override
            public void serialize(T v, JsonGenerator g, SerializerProvider p) throws IOException {
              g.writeTree(write.apply(v));
            }

            @Override
            public void serializeWithType(
                T v, JsonGenerator g, SerializerProvider p, TypeSerializer t) throws IOException {
              serialize(v, g, p);
            }
          });
      m.addDeserializer(
          type,
          new JsonDeserializer<T>() {
            @Override
            public T deserialize(JsonParser p, DeserializationContext c) throws IOException {
              return read.apply(StrictJson.of(p.readValueAsTree(), ""));
            }
          });
    }
  }

  /** Sets have no order of their own: the same set must give the same bytes. */
  @SuppressWarnings("rawtypes")
  private static final class SortedSets extends JsonSerializer<Set> {
    @Override
    public void serialize(Set s, JsonGenerator g, SerializerProvider p) throws IOException {
      List<Object> all = new ArrayList<>();
      for (Object o : s) {
        all.add(o);
      }
      all.sort(null);
      g.writeStartArray();
      for (Object o : all) {
        p.defaultSerializeValue(o, g);
      }
      g.writeEndArray();
    }

    @Override
    public boolean isEmpty(SerializerProvider p, Set s) {
      return s.isEmpty();
    }
  }

  private static String word(Enum<?> e) {
    return e.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** Enumerations in lower case with hyphens. A test holds the words against the constants. */
  @SuppressWarnings("rawtypes")
  private static final class Words extends JsonSerializer<Enum> {
    @Override
    public void serialize(Enum e, JsonGenerator g, SerializerProvider p) throws IOException {
      g.writeString(word(e));
    }
  }

  private static final class WordsModifier
      extends com.fasterxml.jackson.databind.deser.BeanDeserializerModifier {
    private static final long serialVersionUID = 1L;

    @Override
    public JsonDeserializer<?> modifyEnumDeserializer(
        com.fasterxml.jackson.databind.DeserializationConfig config,
        JavaType type,
        com.fasterxml.jackson.databind.BeanDescription description,
        JsonDeserializer<?> usual) {
      if (type.getRawClass() == PlateRole.class || type.getRawClass() == LensModel.class) {
        return usual;
      }
      Object[] all = type.getRawClass().getEnumConstants();
      return new JsonDeserializer<Object>() {
        @Override
        public Object deserialize(JsonParser p, DeserializationContext c) throws IOException {
          return StrictJson.of(p.readValueAsTree(), "")
              .word(Arrays.copyOf(all, all.length), e -> word((Enum<?>) e));
        }
      };
    }
  }
}
