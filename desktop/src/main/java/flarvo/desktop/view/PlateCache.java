package flarvo.desktop.view;

import flarvo.plate.PlateImage;
import flarvo.plate.look.Look;
import flarvo.plate.look.ShownPlate;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import java.nio.IntBuffer;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.PriorityBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.application.Platform;
import javafx.scene.image.Image;
import javafx.scene.image.PixelBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;

/**
 * Decoded plates, nearest frames first, within a share of the memory. Decoding runs in the
 * background; the window's thread only ever looks.
 */
public final class PlateCache {

  private static final int AHEAD = 24;
  private static final int BEHIND = 4;

  private record Key(PlateSequence plates, int frame, Look look) {}

  private final long mostBytes = Runtime.getRuntime().maxMemory() / 3;
  private final Map<Key, Image> images = new LinkedHashMap<>(64, 0.75f, true);
  private final Set<Key> failed = new HashSet<>();
  private final Set<Key> wanted = new HashSet<>();
  private final Set<Key> inWork = ConcurrentHashMap.newKeySet();
  private final AtomicInteger generation = new AtomicInteger();
  private final Runnable onLoaded;
  private Look look = Look.NONE;
  private long bytes;
  private final ThreadPoolExecutor pool;

  /**
   * @param onLoaded called on the window's thread when a picture has come
   */
  public PlateCache(Runnable onLoaded) {
    this.onLoaded = onLoaded;
    // One processor is left to the window.
    int threads = Math.max(1, Math.min(4, Runtime.getRuntime().availableProcessors() - 1));
    pool =
        new ThreadPoolExecutor(
            threads,
            threads,
            0,
            TimeUnit.SECONDS,
            new PriorityBlockingQueue<>(),
            r -> {
              Thread t = new Thread(r, "plates");
              t.setDaemon(true);
              t.setPriority(Thread.MIN_PRIORITY);
              return t;
            },
            // A frame may still be looked at while the window closes; nothing is decoded for it.
            new ThreadPoolExecutor.DiscardPolicy());
  }

  /** How pictures are shown from now on; those of another look give way to them. */
  public void setLook(Look l) {
    look = l;
    wanted.clear();
    generation.addAndGet(3 * AHEAD); // what waits is of the look before
    onLoaded.run();
  }

  /** The picture if it is here; else null, and it is on its way. */
  public Image get(PlateSequence plates, int frame) {
    Image image = images.get(new Key(plates, frame, look));
    ask(plates, frame);
    return image;
  }

  public boolean hasFailed(PlateSequence plates, int frame) {
    return failed.contains(new Key(plates, frame, look));
  }

  public int loaded(PlateSequence plates) {
    return (int) images.keySet().stream().filter(k -> k.plates.equals(plates)).count();
  }

  /** The frame itself first, then those that come next, then a few behind. */
  private void ask(PlateSequence plates, int frame) {
    int mine = generation.incrementAndGet();
    for (int i = 0; i <= AHEAD; i++) {
      request(plates, frame + i, mine, i);
      if (i > 0 && i <= BEHIND) {
        request(plates, frame - i, mine, i);
      }
    }
  }

  private void request(PlateSequence plates, int frame, int mine, int distance) {
    Key key = new Key(plates, frame, look);
    boolean open =
        plates.frames().contains(frame) && !images.containsKey(key) && !failed.contains(key);
    // The frame that shall be seen now is asked for again, ahead of what it was asked with before.
    if (open && (wanted.add(key) || distance == 0)) {
      pool.execute(new Request(key, mine, distance));
    }
  }

  /** What was asked last comes first: a hand that scrubs wants the frame under it. */
  private final class Request implements Runnable, Comparable<Request> {
    private final Key key;
    private final int asked;
    private final int distance;

    Request(Key key, int asked, int distance) {
      this.key = key;
      this.asked = asked;
      this.distance = distance;
    }

    @Override
    public int compareTo(Request o) {
      return Integer.compare(distance - AHEAD * asked, o.distance - AHEAD * o.asked);
    }

    @Override
    public void run() {
      // A request that the playhead has long left behind makes room for new ones.
      if (generation.get() - asked > 2 * AHEAD) {
        Platform.runLater(() -> wanted.remove(key));
        return;
      }
      if (!inWork.add(key)) {
        return; // another request for it was faster
      }
      try {
        PlateImage p = ShownPlate.of(key.plates, key.frame, key.look);
        Image image =
            new WritableImage(
                new PixelBuffer<>(
                    p.width(),
                    p.height(),
                    IntBuffer.wrap(p.argb()),
                    PixelFormat.getIntArgbPreInstance()));
        Platform.runLater(() -> put(key, image, p.bytes()));
      } catch (InputError e) {
        Platform.runLater(
            () -> {
              failed.add(key);
              wanted.remove(key);
              inWork.remove(key);
              onLoaded.run();
            });
      }
    }
  }

  private void put(Key key, Image image, long size) {
    wanted.remove(key);
    inWork.remove(key);
    if (images.put(key, image) == null) {
      bytes += size; // else a second request for it was answered too
    }
    Iterator<Map.Entry<Key, Image>> oldest = images.entrySet().iterator();
    while (bytes > mostBytes && images.size() > AHEAD && oldest.hasNext()) {
      Image gone = oldest.next().getValue();
      bytes -= bytes(gone);
      oldest.remove();
    }
    onLoaded.run();
  }

  private static long bytes(Image i) {
    return (long) (4 * i.getWidth() * i.getHeight());
  }

  /** Memory that the pictures take which are here, as the limit counts it. */
  public long usedBytes() {
    return bytes;
  }

  /** Stops decoding; what is here stays. */
  public void close() {
    pool.shutdownNow();
  }
}
