package flarvo.level;

import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import org.ddogleg.nn.FactoryNearestNeighbor;
import org.ddogleg.nn.NearestNeighbor;
import org.ddogleg.nn.NnData;
import org.ddogleg.nn.alg.distance.KdTreeEuclideanSq_F64;
import org.ddogleg.struct.DogArray;

/** Who is near whom among many places, in a tree. Not safe for use by several threads at once. */
public final class Neighbours {

  private final NearestNeighbor.Search<double[]> search;
  private final DogArray<NnData<double[]>> found = new DogArray<>(NnData::new);

  public Neighbours(List<Vec3> places) {
    NearestNeighbor<double[]> tree = FactoryNearestNeighbor.kdtree(new KdTreeEuclideanSq_F64(3));
    List<double[]> points = new ArrayList<>(places.size());
    places.forEach(p -> points.add(new double[] {p.x(), p.y(), p.z()}));
    tree.setPoints(points, true);
    search = tree.createSearch();
  }

  /** Numbers of the nearest few, in no order. */
  public List<Integer> nearest(Vec3 to, int most) {
    found.reset();
    search.findNearest(new double[] {to.x(), to.y(), to.z()}, -1, most, found);
    List<Integer> out = new ArrayList<>();
    for (int i = 0; i < found.size; i++) {
      out.add(found.get(i).index);
    }
    return out;
  }
}
