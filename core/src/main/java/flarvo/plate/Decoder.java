package flarvo.plate;

import flarvo.report.InputError;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/**
 * A process that decodes pictures and movies for us. One that is idle is used again; one that fell,
 * or says nothing for too long, is replaced by the next.
 */
final class Decoder {

  private static final Set<String> JVM_OPTIONS =
      Set.of("JAVA_TOOL_OPTIONS", "JDK_JAVA_OPTIONS", "_JAVA_OPTIONS");

  private static final int MOST_IDLE = 2;
  private static final Deque<Decoder> IDLE = new ArrayDeque<>();

  private final Process process;
  private final DataInputStream in;
  private final DataOutputStream out;
  private volatile long heard = System.nanoTime();

  private Decoder(Process process) {
    this.process = process;
    this.in = new DataInputStream(new BufferedInputStream(process.getInputStream(), 1 << 16));
    this.out = new DataOutputStream(new BufferedOutputStream(process.getOutputStream()));
  }

  /** What is asked and how the answer is read. */
  interface Question<T> {
    void ask(DataOutputStream out) throws IOException;

    /** Called after {@link DecoderMain#DONE}. */
    T answer(DataInputStream in) throws IOException;
  }

  /**
   * @param silence seconds after which a decoder that says nothing is ended
   */
  static <T> T ask(Path file, Question<T> question, int silence, Progress progress) {
    Decoder d = take(file);
    boolean whole = false;
    Thread watch = new Thread(() -> d.watch(silence, progress), "decoder's watch");
    watch.setDaemon(true);
    d.heard = System.nanoTime();
    watch.start();
    try {
      question.ask(d.out);
      d.out.flush();
      int what = d.in.read();
      while (what == DecoderMain.STEP) {
        d.heard = System.nanoTime();
        progress.step(d.in.readInt(), 0);
        what = d.in.read();
      }
      if (what == DecoderMain.FAILED) {
        String why = d.in.readUTF();
        whole = true;
        throw new InputError(file.toString(), "", why, "Request a new copy");
      }
      if (what != DecoderMain.DONE) {
        throw new IOException("the decoder fell");
      }
      T answer = question.answer(d.in);
      whole = true;
      return answer;
    } catch (IOException e) {
      if (progress.isCancelled()) {
        throw new Cancelled();
      }
      throw new InputError(
          file.toString(),
          "",
          "the decoder fell over it or took too long; it is broken",
          "Request a new copy",
          e);
    } finally {
      watch.interrupt();
      if (whole) {
        giveBack(d);
      } else {
        d.process.destroyForcibly();
      }
    }
  }

  private static Decoder take(Path file) {
    synchronized (IDLE) {
      while (!IDLE.isEmpty()) {
        Decoder d = IDLE.pop();
        if (d.process.isAlive()) {
          return d;
        }
      }
    }
    try {
      return new Decoder(start());
    } catch (IOException e) {
      throw new InputError(
          file.toString(), "", "the decoder does not start", "Turn the plates into PNG or TIFF", e);
    }
  }

  private static Process start() throws IOException {
    Path java = Path.of(System.getProperty("java.home"), "bin", "java");
    ProcessBuilder decoder =
        new ProcessBuilder(
                List.of(
                    java.toString(),
                    "-Xmx512m",
                    "-Xshare:auto",
                    "-XX:+UseSerialGC",
                    "-XX:TieredStopAtLevel=1",
                    "-Djava.awt.headless=true",
                    "-cp",
                    System.getProperty("java.class.path"),
                    DecoderMain.class.getName()))
            .redirectError(ProcessBuilder.Redirect.DISCARD);
    // What is meant for this process, such as a recording, would speak where answers are expected.
    decoder.environment().keySet().removeAll(JVM_OPTIONS);
    return decoder.start();
  }

  private static void giveBack(Decoder d) {
    synchronized (IDLE) {
      if (IDLE.size() < MOST_IDLE) {
        IDLE.push(d);
        return;
      }
    }
    d.process.destroy();
  }

  private void watch(int silence, Progress progress) {
    try {
      while (!process.waitFor(50, TimeUnit.MILLISECONDS)) {
        boolean quiet = System.nanoTime() - heard > TimeUnit.SECONDS.toNanos(silence);
        if (quiet || progress.isCancelled()) {
          process.destroyForcibly();
        }
      }
    } catch (InterruptedException e) {
      return; // the answer is here
    }
  }
}
