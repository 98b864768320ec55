package flarvo.cli;

import flarvo.report.InputError;
import flarvo.work.Cancelled;
import java.io.OutputStreamWriter;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** Starts the command line. */
@Command(
    name = "flarvo",
    description = "Carries solved shots between departments and proves every hand-over.",
    mixinStandardHelpOptions = true,
    footer = {
      "",
      "In the window: 'flarvo open FILE…' opens files or a project, 'flarvo demo' the demo.",
      "'flarvo COMMAND --help' shows a command's options with an example.",
      "",
      "Exit codes: 0 completed, holds; 1 completed, does not hold; 2 usage or input error; 130"
          + " cancelled."
    },
    version = "Flarvo 0.1.0")
public final class Main implements Runnable {

  /** By name: to look at every command's options takes longer than most commands do. */
  private static final Map<String, Class<?>> COMMANDS = new LinkedHashMap<>();

  static {
    COMMANDS.put("folders", FoldersCommand.class);
    COMMANDS.put("receive", ReceiveCommand.class);
    COMMANDS.put("inspect", InspectCommand.class);
    COMMANDS.put("ledger", LedgerCommand.class);
    COMMANDS.put("dialects", DialectsCommand.class);
    COMMANDS.put("pixels", PixelsCommand.class);
    COMMANDS.put("convert", ConvertCommand.class);
    COMMANDS.put("prove", ProveCommand.class);
    COMMANDS.put("import-as", ImportAsCommand.class);
    COMMANDS.put("suspects", SuspectsCommand.class);
    COMMANDS.put("sender", SenderCommand.class);
    COMMANDS.put("lens-calc", LensCalcCommand.class);
    COMMANDS.put("vet", VetCommand.class);
    COMMANDS.put("level", LevelCommand.class);
    COMMANDS.put("solve", SolveCommand.class);
    COMMANDS.put("trace", TraceCommand.class);
    COMMANDS.put("auto", AutoCommand.class);
    COMMANDS.put("replay", ReplayCommand.class);
    COMMANDS.put("recipe", RecipeCommand.class);
    COMMANDS.put("run", RunCommand.class);
    COMMANDS.put("gather", GatherCommand.class);
    COMMANDS.put("send", SendCommand.class);
    COMMANDS.put("note", NoteCommand.class);
    COMMANDS.put("render", RenderCommand.class);
    COMMANDS.put("plates", PlatesCommand.class);
    COMMANDS.put("unpack", UnpackCommand.class);
    COMMANDS.put("deinterlace", DeinterlaceCommand.class);
    COMMANDS.put("undistort", UndistortCommand.class);
    COMMANDS.put("redistort", RedistortCommand.class);
    COMMANDS.put("stmap", StmapCommand.class);
    COMMANDS.put("lens", LensCommand.class);
    COMMANDS.put("completion", CompletionCommand.class);
  }

  @CommandLine.Spec private CommandLine.Model.CommandSpec spec;

  @Override
  public void run() {
    throw new CommandLine.ParameterException(spec.commandLine(), "no command; see 'flarvo --help'");
  }

  public static void main(String[] args) {
    Interrupt interrupt = Interrupt.install();
    int code = run(utf8(System.out), utf8(System.err), args);
    interrupt.ended();
    System.exit(code);
  }

  /** Whatever the shell's own language is, scripts read one encoding. */
  private static PrintWriter utf8(PrintStream stream) {
    return new PrintWriter(
        new PlainText(new OutputStreamWriter(stream, StandardCharsets.UTF_8)), true);
  }

  /** The whole program without its exit, for tests. */
  static int run(PrintWriter out, PrintWriter err, String... args) {
    CommandLine line = args.length > 0 && COMMANDS.containsKey(args[0]) ? line(args[0]) : line();
    line.setOut(out);
    line.setErr(err);
    line.setCaseInsensitiveEnumValuesAllowed(true);
    for (CommandLine sub : all(line)) {
      sub.setOut(out);
      sub.setErr(err);
    }
    line.setParameterExceptionHandler(
        (e, words) -> {
          err.println("flarvo: " + firstLine(e.getMessage()));
          return ExitCode.BAD_INPUT;
        });
    line.setExecutionExceptionHandler(
        (e, command, parsed) -> {
          if (e instanceof Cancelled) {
            err.println("flarvo: cancelled");
            return ExitCode.CANCELLED;
          }
          String text = e instanceof InputError ? e.getMessage() : "internal error: " + e;
          err.println("flarvo: " + firstLine(text));
          return ExitCode.BAD_INPUT;
        });
    int code;
    try {
      code = line.execute(args);
    } catch (OutOfMemoryError | StackOverflowError e) {
      err.println("flarvo: " + words(e));
      code = ExitCode.BAD_INPUT;
    }
    out.flush();
    err.flush();
    return code;
  }

  private static String words(VirtualMachineError e) {
    return e instanceof StackOverflowError
        ? "what was given is nested too deeply to be read"
        : "what was given needs more memory than there is; allow more with"
            + " FLARVO_JAVA_OPTIONS=-Xmx8g, or make it smaller";
  }

  /** Every command with its options. */
  static CommandLine line() {
    return line(COMMANDS.keySet().toArray(String[]::new));
  }

  private static CommandLine line(String... names) {
    CommandLine line = new CommandLine(new Main());
    for (String n : names) {
      line.addSubcommand(n, COMMANDS.get(n));
    }
    all(line).forEach(sub -> sub.getCommandSpec().mixinStandardHelpOptions(true));
    return line;
  }

  /** Commands and their own commands. */
  static List<CommandLine> all(CommandLine line) {
    List<CommandLine> out = new ArrayList<>();
    for (CommandLine sub : line.getSubcommands().values()) {
      out.add(sub);
      out.addAll(all(sub));
    }
    return out;
  }

  private static String firstLine(String s) {
    return s == null ? "unknown error" : s.lines().findFirst().orElse("");
  }
}
