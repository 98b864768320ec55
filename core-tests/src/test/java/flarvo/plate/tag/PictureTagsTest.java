package flarvo.plate.tag;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.TestPicture;
import flarvo.plate.tag.PlateTags.Attribute;
import flarvo.report.InputError;
import java.awt.color.ColorSpace;
import java.awt.color.ICC_Profile;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.ImageTypeSpecifier;
import javax.imageio.ImageWriter;
import javax.imageio.metadata.IIOMetadata;
import javax.imageio.metadata.IIOMetadataNode;
import javax.imageio.plugins.tiff.TIFFDirectory;
import javax.imageio.plugins.tiff.TIFFField;
import javax.imageio.plugins.tiff.TIFFImageReadParam;
import javax.imageio.plugins.tiff.TIFFTag;
import javax.imageio.stream.ImageInputStream;
import javax.imageio.stream.ImageOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Node;

/** Tags that a library wrote, read and written by us, and read by the library again. */
class PictureTagsTest {

  private static final byte[] PROFILE = ICC_Profile.getInstance(ColorSpace.CS_LINEAR_RGB).getData();

  @TempDir Path dir;

  private static Raster picture(PlateTags tags) {
    return TestPicture.of(24, 16, List.of("R", "G", "B"), SampleKind.BYTE).with(tags);
  }

  private static Attribute profile(byte[] value) {
    return new Attribute(TagHome.PROFILE, "ICC profile", "", value);
  }

  private static IIOMetadata libraryMetadata(Path file) throws IOException {
    try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
      ImageReader r = ImageIO.getImageReaders(in).next();
      r.setInput(in);
      ImageReadParam p = r.getDefaultReadParam();
      if (p instanceof TIFFImageReadParam t) {
        t.setReadUnknownTags(true);
      }
      IIOMetadata m = r.readAll(0, p).getMetadata();
      r.dispose();
      return m;
    }
  }

  private static IIOMetadataNode child(Node of, String name) {
    for (Node n = of.getFirstChild(); n != null; n = n.getNextSibling()) {
      if (n.getNodeName().equals(name)) {
        return (IIOMetadataNode) n;
      }
    }
    throw new AssertionError("no " + name);
  }

  /** A profile and the shape of a pixel go into every format, and across formats. */
  @ParameterizedTest
  @ValueSource(strings = {"png", "jpg", "tif"})
  void profileAndPixelAspectGoFromFormatToFormat(String format) throws Exception {
    Path first = dir.resolve("first." + format);
    RasterWriter.write(picture(new PlateTags(2, List.of(profile(PROFILE)))), first);
    for (String other : List.of("png", "jpg", "tif")) {
      Raster back = RasterReader.read(first);
      assertThat(back.tags().pixelAspect()).isCloseTo(2, within(1e-6));
      assertThat(back.tags().notIn(TagHome.ofName(other))).isEmpty();
      Path second = dir.resolve("second." + other);
      RasterWriter.write(back, second);
      Raster again = RasterReader.read(second);
      assertThat(again.tags().pixelAspect()).isCloseTo(2, within(1e-6));
      assertThat(again.tags().in(TagHome.ofName(other)))
          .filteredOn(a -> a.home() == TagHome.PROFILE)
          .singleElement()
          .satisfies(a -> assertThat(a.value()).isEqualTo(PROFILE));
    }
    assertThat(RasterReader.read(first).tags().notIn(TagHome.OPENEXR)).contains("ICC profile");
  }

  @Test
  void theLibraryReadsOurPng() throws Exception {
    Path file = dir.resolve("a.png");
    RasterWriter.write(picture(new PlateTags(2, List.of(profile(PROFILE)))), file);
    Node tree = libraryMetadata(file).getAsTree("javax_imageio_png_1.0");
    ByteBuffer packed =
        ByteBuffer.wrap((byte[]) child(tree, "iCCP").getUserObject()).asReadOnlyBuffer();
    assertThat(packed.remaining()).isLessThan(PROFILE.length + 200).isPositive();
    assertThat(child(tree, "pHYs").getAttribute("pixelsPerUnitXAxis")).isEqualTo("1000000");
    assertThat(child(tree, "pHYs").getAttribute("pixelsPerUnitYAxis")).isEqualTo("2000000");
  }

  /** A profile that fills more than one segment; the library takes it for the picture's colour. */
  @Test
  void theLibraryReadsOurJpeg() throws Exception {
    byte[] large = java.util.Arrays.copyOf(PROFILE, 150_000);
    Path parts = dir.resolve("parts.jpg");
    RasterWriter.write(picture(new PlateTags(1, List.of(profile(large)))), parts);
    assertThat(RasterReader.read(parts).tags().attributes())
        .singleElement()
        .satisfies(a -> assertThat(a.value()).isEqualTo(large));
    Path file = dir.resolve("a.jpg");
    RasterWriter.write(picture(new PlateTags(1.5, List.of(profile(PROFILE)))), file);
    IIOMetadataNode jfif =
        child(
            child(libraryMetadata(file).getAsTree("javax_imageio_jpeg_image_1.0"), "JPEGvariety"),
            "app0JFIF");
    ICC_Profile theirs = (ICC_Profile) child(jfif, "app2ICC").getUserObject();
    assertThat(theirs.getData()).isEqualTo(PROFILE);
    double across = Double.parseDouble(jfif.getAttribute("Xdensity"));
    assertThat(Double.parseDouble(jfif.getAttribute("Ydensity")) / across).isEqualTo(1.5);
  }

  /** Texts, gamma, primaries and chunks that nobody knows, as another program wrote them. */
  @Test
  void chunksOfAPngStayByteForByte() throws Exception {
    BufferedImage image = new BufferedImage(9, 7, BufferedImage.TYPE_INT_RGB);
    ImageWriter w = ImageIO.getImageWritersByFormatName("png").next();
    IIOMetadata m =
        w.getDefaultImageMetadata(ImageTypeSpecifier.createFromRenderedImage(image), null);
    IIOMetadataNode root = new IIOMetadataNode("javax_imageio_png_1.0");
    IIOMetadataNode gamma = new IIOMetadataNode("gAMA");
    gamma.setAttribute("value", "45455");
    IIOMetadataNode text = new IIOMetadataNode("tEXt");
    IIOMetadataNode entry = new IIOMetadataNode("tEXtEntry");
    entry.setAttribute("keyword", "shot");
    entry.setAttribute("value", "mer_010, take 3");
    text.appendChild(entry);
    IIOMetadataNode unknown = new IIOMetadataNode("UnknownChunks");
    IIOMetadataNode own = new IIOMetadataNode("UnknownChunk");
    own.setAttribute("type", "stUd");
    own.setUserObject(new byte[] {3, 1, 4, 1, 5});
    unknown.appendChild(own);
    root.appendChild(gamma);
    root.appendChild(text);
    root.appendChild(unknown);
    m.mergeTree("javax_imageio_png_1.0", root);
    Path file = dir.resolve("theirs.png");
    try (ImageOutputStream out = ImageIO.createImageOutputStream(file.toFile())) {
      w.setOutput(out);
      w.write(null, new IIOImage(image, null, m), null);
    }
    Path made = dir.resolve("ours.png");
    RasterWriter.write(RasterReader.read(file), made);
    Node tree = libraryMetadata(made).getAsTree("javax_imageio_png_1.0");
    assertThat(child(tree, "gAMA").getAttribute("value")).isEqualTo("45455");
    IIOMetadataNode kept = child(child(tree, "tEXt"), "tEXtEntry");
    assertThat(kept.getAttribute("value")).isEqualTo("mer_010, take 3");
    IIOMetadataNode still = child(child(tree, "UnknownChunks"), "UnknownChunk");
    assertThat(still.getAttribute("type")).isEqualTo("stUd");
    assertThat((byte[]) still.getUserObject()).containsExactly(3, 1, 4, 1, 5);
    assertThat(RasterReader.read(file).tags().notIn(TagHome.TIFF))
        .containsExactly("gAMA", "tEXt", "stUd");
  }

  /** Every type of number, in either order of bytes. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void fieldsOfATiffStay(boolean little) throws Exception {
    BufferedImage image = new BufferedImage(9, 7, BufferedImage.TYPE_INT_RGB);
    ImageWriter w = ImageIO.getImageWritersByFormatName("tiff").next();
    List<TIFFField> fields =
        List.of(
            field(270, TIFFTag.TIFF_ASCII, 1, new String[] {"mer_010, take 3"}),
            field(50001, TIFFTag.TIFF_ASCII, 2, new String[] {"one", "two"}),
            field(50002, TIFFTag.TIFF_SHORT, 3, new char[] {1, 40000, 65535}),
            field(50003, TIFFTag.TIFF_LONG, 2, new long[] {7, 4_000_000_000L}),
            field(50004, TIFFTag.TIFF_RATIONAL, 1, new long[][] {{24000, 1001}}),
            field(50005, TIFFTag.TIFF_DOUBLE, 2, new double[] {Math.PI, -1e300}),
            field(50006, TIFFTag.TIFF_FLOAT, 1, new float[] {2.5f}),
            field(50007, TIFFTag.TIFF_SLONG, 1, new int[] {-5}),
            field(50008, TIFFTag.TIFF_SSHORT, 2, new short[] {-5, 6}),
            field(50009, TIFFTag.TIFF_SRATIONAL, 1, new int[][] {{-1, 3}}),
            field(50010, TIFFTag.TIFF_UNDEFINED, 5, new byte[] {1, 2, 3, 4, 5}));
    Path file = dir.resolve("theirs.tif");
    IIOMetadata given =
        w.getDefaultImageMetadata(
            ImageTypeSpecifier.createFromRenderedImage(image), w.getDefaultWriteParam());
    TIFFDirectory directory = TIFFDirectory.createFromMetadata(given);
    fields.forEach(directory::addTIFFField);
    try (ImageOutputStream out = ImageIO.createImageOutputStream(file.toFile())) {
      w.setOutput(out);
      IIOMetadata stream = w.getDefaultStreamMetadata(w.getDefaultWriteParam());
      Node order = stream.getAsTree(stream.getNativeMetadataFormatName());
      ((IIOMetadataNode) order.getFirstChild())
          .setAttribute("value", little ? "LITTLE_ENDIAN" : "BIG_ENDIAN");
      stream.setFromTree(stream.getNativeMetadataFormatName(), order);
      w.write(
          stream, new IIOImage(image, null, directory.getAsMetadata()), w.getDefaultWriteParam());
    }
    assertThat(Files.readAllBytes(file)[0]).isEqualTo((byte) (little ? 'I' : 'M'));
    Path made = dir.resolve("ours.tif");
    RasterWriter.write(RasterReader.read(file), made);
    TIFFDirectory back = TIFFDirectory.createFromMetadata(libraryMetadata(made));
    for (TIFFField f : fields) {
      TIFFField b = back.getTIFFField(f.getTagNumber());
      assertThat(b).as(String.valueOf(f.getTagNumber())).isNotNull();
      assertThat(b.getType()).isEqualTo(f.getType());
      assertThat(b.getCount()).isEqualTo(f.getCount());
      for (int i = 0; i < f.getCount() && f.getType() != TIFFTag.TIFF_UNDEFINED; i++) {
        assertThat(b.getValueAsString(i)).isEqualTo(f.getValueAsString(i));
      }
    }
    assertThat(back.getTIFFField(50010).getAsBytes()).containsExactly(1, 2, 3, 4, 5);
  }

  private static TIFFField field(int tag, int type, int count, Object data) {
    return new TIFFField(new TIFFTag("f", tag, 1 << type), type, count, data);
  }

  /** Exif goes from JPEG to JPEG; further pictures of a file, and Exif in a TIFF, are listed. */
  @Test
  void whatCannotBeCarriedOnIsNamed() throws Exception {
    Path plain = dir.resolve("plain.jpg");
    RasterWriter.write(picture(PlateTags.NONE), plain);
    byte[] all = Files.readAllBytes(plain);
    byte[] exif = segment(0xE1, "Exif\0\0II*\0");
    byte[] further = segment(0xE2, "MPF\0places");
    byte[] comment = segment(0xFE, "slate 12");
    ByteBuffer b = ByteBuffer.allocate(all.length + 100);
    b.put(all, 0, 20).put(exif).put(further).put(comment).put(all, 20, all.length - 20);
    Path file = dir.resolve("theirs.jpg");
    Files.write(file, java.util.Arrays.copyOf(b.array(), b.position()));
    Raster r = RasterReader.read(file);
    assertThat(r.tags().notIn(TagHome.JPEG)).containsExactly("APP2 (MPF)");
    assertThat(r.tags().notIn(TagHome.PNG)).containsExactly("APP1 (Exif)", "APP2 (MPF)", "comment");
    Path made = dir.resolve("ours.jpg");
    RasterWriter.write(r, made);
    String text = Files.readString(made, StandardCharsets.ISO_8859_1);
    assertThat(text)
        .contains(new String(exif, StandardCharsets.ISO_8859_1))
        .contains(new String(comment, StandardCharsets.ISO_8859_1))
        .doesNotContain("MPF");
    assertThat(ImageIO.read(made.toFile())).isNotNull();
  }

  private static byte[] segment(int marker, String value) {
    byte[] v = value.getBytes(StandardCharsets.ISO_8859_1);
    ByteBuffer b = ByteBuffer.allocate(4 + v.length).put((byte) 0xFF).put((byte) marker);
    return b.putShort((short) (v.length + 2)).put(v).array();
  }

  /** What people see of it in the table of plates; nothing is made up. */
  @Test
  void coloursAreSaidAsTheyAreStated() throws Exception {
    assertThat(StatedColour.of(List.of(profile(PROFILE)))).isEqualTo("linear sRGB");
    assertThat(
            StatedColour.of(
                List.of(profile(ICC_Profile.getInstance(ColorSpace.CS_sRGB).getData()))))
        .containsIgnoringCase("sRGB");
    assertThat(StatedColour.of(List.of(profile(new byte[200])))).isEqualTo("ICC profile");
    assertThat(StatedColour.of(List.of(chunk("sRGB", 0)))).isEqualTo("sRGB");
    assertThat(StatedColour.of(List.of(chunk("cICP", 9, 16, 0, 1)))).isEqualTo("Rec. 2020, PQ");
    assertThat(StatedColour.of(List.of(chunk("gAMA", 0, 0, 0xB1, 0x8F)))).isEqualTo("gamma 2.20");
    assertThat(StatedColour.of(List.of(chunk("tEXt", 9, 16)))).isEmpty();
    ByteBuffer xy = ByteBuffer.allocate(32).order(java.nio.ByteOrder.LITTLE_ENDIAN);
    for (double v : new double[] {0.708, 0.292, 0.17, 0.797, 0.131, 0.046, 0.3127, 0.329}) {
      xy.putFloat((float) v);
    }
    Attribute exr = Attribute.exr("chromaticities", "chromaticities", xy.array());
    assertThat(StatedColour.of(List.of(exr))).isEqualTo("Rec. 2020, linear");
    Path file = dir.resolve("a.1.png");
    RasterWriter.write(picture(new PlateTags(1, List.of(profile(PROFILE)))), file);
    assertThat(flarvo.plate.PlateFinder.find(dir).get(0).facts().colour()).isEqualTo("linear sRGB");
  }

  private static Attribute chunk(String name, int... value) {
    byte[] b = new byte[value.length];
    for (int i = 0; i < b.length; i++) {
      b[i] = (byte) value[i];
    }
    return new Attribute(TagHome.PNG, name, "", b);
  }

  /** Files whose tags are broken are read, with fewer of them, or refused in words. */
  @Test
  void brokenTagsAreNoTrap() throws Exception {
    List<Attribute> some = new ArrayList<>(List.of(profile(PROFILE)));
    some.add(new Attribute(TagHome.PNG, "tEXt", "", "a\0b".getBytes(StandardCharsets.US_ASCII)));
    some.add(new Attribute(TagHome.TIFF, "tag 50001", "50001 4", new byte[8]));
    some.add(new Attribute(TagHome.JPEG, "comment", "254", new byte[40]));
    Random random = new Random(4);
    int read = 0;
    for (String name : List.of("a.png", "a.jpg", "a.tif")) {
      Path file = dir.resolve(name);
      RasterWriter.write(picture(new PlateTags(2, some)), file);
      byte[] whole = Files.readAllBytes(file);
      for (int turn = 0; turn < 400; turn++) {
        byte[] b = whole.clone();
        for (int k = 0; k <= turn % 4; k++) {
          b[random.nextInt(b.length)] = (byte) random.nextInt();
        }
        Path broken = dir.resolve("broken-" + name);
        Files.write(broken, b);
        try {
          RasterWriter.write(RasterReader.read(broken), dir.resolve("again-" + name));
          read++;
        } catch (InputError e) {
          assertThat(e.getMessage()).isNotBlank();
        }
      }
    }
    assertThat(read).isGreaterThan(100);
  }
}
