package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.scene.Mesh;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Normals and texture coordinates as others write them: a corner, a point, or by number. */
class SurfaceReadingTest {

  @TempDir private Path dir;

  private FileScene read(String name, String text) throws IOException {
    Path file = Files.writeString(dir.resolve(name), text);
    return Formats.recognise(file).read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  /** One quad whose corners are not in the order of its points. */
  private Mesh usd(String more) throws IOException {
    return read(
            "m.usda",
            """
            #usda 1.0
            ( metersPerUnit = 1 )
            def Xform "shot"
            {
                def Mesh "m"
                {
                    point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
                    int[] faceVertexCounts = [4]
                    int[] faceVertexIndices = [2, 3, 0, 1]
                    %s
                }
            }
            """
                .formatted(more))
        .meshes()
        .get(0);
  }

  @Test
  void usdValuesAPointAreNotValuesACorner() throws IOException {
    Mesh m =
        usd(
            "normal3f[] normals = [(1, 0, 0), (0, 1, 0), (0, 0, 1), (0, 0, -1)]"
                + " (interpolation = \"vertex\")");
    assertThat(m.normals()).containsExactly(0, 0, 1, 0, 0, -1, 1, 0, 0, 0, 1, 0);
    Mesh corners =
        usd(
            "normal3f[] normals = [(1, 0, 0), (0, 1, 0), (0, 0, 1), (0, 0, -1)]"
                + " (interpolation = \"faceVarying\")");
    assertThat(corners.normals()).containsExactly(1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, -1);
  }

  @Test
  void usdIndicesOfTextureCoordinates() throws IOException {
    Mesh m =
        usd(
            "texCoord2f[] primvars:st = [(0.1, 0.2), (0.3, 0.4)] (interpolation = \"faceVarying\")\n"
                + "int[] primvars:st:indices = [1, 0, 0, 1]");
    assertThat(m.uvs())
        .usingComparatorWithPrecision(1e-6)
        .containsExactly(0.3, 0.4, 0.1, 0.2, 0.1, 0.2, 0.3, 0.4);
    Mesh points =
        usd(
            "texCoord2f[] primvars:st = [(0.1, 0), (0.2, 0)] (interpolation = \"vertex\")\n"
                + "int[] primvars:st:indices = [0, 0, 1, 1]");
    assertThat(points.uvs()[0]).isCloseTo(0.2, within(1e-6));
    assertThat(points.uvs()[4]).isCloseTo(0.1, within(1e-6));
  }

  @Test
  void usdOneValueAFaceIsSaid() throws IOException {
    FileScene s =
        read(
            "u.usda",
            """
            #usda 1.0
            def Mesh "m"
            {
                point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0)]
                int[] faceVertexCounts = [3]
                int[] faceVertexIndices = [0, 1, 2]
                normal3f[] normals = [(0, 0, 1)] (interpolation = "uniform")
            }
            """);
    assertThat(s.meshes().get(0).normals()).isEmpty();
    assertThat(s.notes()).extracting(Object::toString).anyMatch(n -> n.contains("normals"));
  }

  private Mesh fbx(String layers) throws IOException {
    return read(
            "m.fbx",
            """
            ; FBX 7.5.0 project file
            FBXHeaderExtension:  {
              FBXVersion: 7500
            }
            GlobalSettings:  {
              Properties70:  {
                P: "UnitScaleFactor", "double", "Number", "",100
              }
            }
            Objects:  {
              Geometry: 1, "Geometry::m", "Mesh" {
                Vertices: *12 {
                  a: 0,0,0,1,0,0,1,1,0,0,1,0
                }
                PolygonVertexIndex: *4 {
                  a: 2,3,0,-2
                }
                %s
              }
              Model: 2, "Model::m", "Mesh" {
                Properties70: { P: "Lcl Rotation", "Lcl Rotation", "", "A",0,0,90 }
              }
            }
            Connections: {
              C: "OO",1,2
              C: "OO",2,0
            }
            """
                .formatted(layers))
        .meshes()
        .get(0);
  }

  @Test
  void fbxNormalsAPointTurnWithTheModel() throws IOException {
    Mesh m =
        fbx(
            """
            LayerElementNormal: 0 {
              MappingInformationType: "ByVertice"
              ReferenceInformationType: "Direct"
              Normals: *12 {
                a: 1,0,0,0,1,0,0,0,1,0,0,-1
              }
            }
            """);
    double[] n = m.normals();
    double[] expected = {0, 0, 1, 0, 0, -1, 0, 1, 0, -1, 0, 0}; // x is y after a quarter turn
    for (int i = 0; i < n.length; i++) {
      assertThat(n[i]).as("number %d", i).isCloseTo(expected[i], within(1e-12));
    }
  }

  @Test
  void fbxTextureCoordinatesByNumber() throws IOException {
    Mesh m =
        fbx(
            """
            LayerElementUV: 0 {
              MappingInformationType: "ByPolygonVertex"
              ReferenceInformationType: "IndexToDirect"
              UV: *4 {
                a: 0.25,0.5,0.75,1
              }
              UVIndex: *4 {
                a: 1,0,0,1
              }
            }
            """);
    assertThat(m.uvs()).containsExactly(0.75, 1, 0.25, 0.5, 0.25, 0.5, 0.75, 1);
  }

  @Test
  void whatDoesNotFitIsLeftOutAndSaid() throws IOException {
    Path file = dir.resolve("m.fbx");
    fbx(
        """
        LayerElementUV: 0 {
          MappingInformationType: "ByPolygonVertex"
          ReferenceInformationType: "IndexToDirect"
          UV: *4 {
            a: 0.25,0.5,0.75,1
          }
          UVIndex: *4 {
            a: 1,0,9,1
          }
        }
        """);
    FileScene s =
        Formats.recognise(file).read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
    assertThat(s.meshes().get(0).uvs()).isEmpty();
    assertThat(s.notes()).extracting(Object::toString).anyMatch(n -> n.contains("LayerElementUV"));
  }
}
