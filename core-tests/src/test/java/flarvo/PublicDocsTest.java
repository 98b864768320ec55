package flarvo;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.source.tree.ClassTree;
import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.tree.IdentifierTree;
import com.sun.source.tree.LiteralTree;
import com.sun.source.tree.MemberSelectTree;
import com.sun.source.tree.MethodTree;
import com.sun.source.tree.ReturnTree;
import com.sun.source.tree.Tree;
import com.sun.source.util.DocTrees;
import com.sun.source.util.JavacTask;
import com.sun.source.util.TreePath;
import com.sun.source.util.TreePathScanner;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import javax.lang.model.element.Modifier;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

/** Every public method that is more than an accessor says what it takes, gives and refuses. */
class PublicDocsTest {

  @Test
  void publicMethodsAreDocumented() throws IOException {
    List<Path> files;
    try (Stream<Path> all = Files.walk(Path.of("../core/src/main/java"))) {
      files = all.filter(p -> p.toString().endsWith(".java")).toList();
    }
    JavaCompiler javac = ToolProvider.getSystemJavaCompiler();
    JavacTask task =
        (JavacTask)
            javac.getTask(
                null,
                null,
                null,
                List.of("-proc:none"),
                null,
                javac.getStandardFileManager(null, null, null).getJavaFileObjectsFromPaths(files));
    DocTrees docs = DocTrees.instance(task);
    Map<String, Integer> byClass = new TreeMap<>();
    int[] methods = new int[1];
    List<String> missing = new ArrayList<>();
    for (CompilationUnitTree unit : task.parse()) {
      new Methods(docs, methods, missing, byClass).scan(unit, null);
    }
    System.out.println(
        "public methods that are more than accessors: "
            + methods[0]
            + ", without a comment: "
            + missing.size());
    byClass.forEach((c, n) -> System.out.println("  " + n + " " + c));
    assertThat(missing).isEmpty();
  }

  private static final class Methods extends TreePathScanner<Void, Void> {
    private final DocTrees docs;
    private final int[] methods;
    private final List<String> missing;
    private final Map<String, Integer> byClass;

    Methods(DocTrees docs, int[] methods, List<String> missing, Map<String, Integer> byClass) {
      this.docs = docs;
      this.methods = methods;
      this.missing = missing;
      this.byClass = byClass;
    }

    @Override
    public Void visitClass(ClassTree c, Void v) {
      boolean open =
          c.getModifiers().getFlags().contains(Modifier.PUBLIC)
              || getCurrentPath().getParentPath().getLeaf() instanceof ClassTree outer
                  && outer.getKind() == Tree.Kind.INTERFACE;
      return open ? super.visitClass(c, null) : null;
    }

    @Override
    public Void visitMethod(MethodTree m, Void v) {
      ClassTree in = (ClassTree) getCurrentPath().getParentPath().getLeaf();
      boolean open =
          m.getModifiers().getFlags().contains(Modifier.PUBLIC)
              || in.getKind() == Tree.Kind.INTERFACE
                  && !m.getModifiers().getFlags().contains(Modifier.PRIVATE);
      boolean inherited =
          m.getModifiers().getAnnotations().stream()
              .anyMatch(a -> a.getAnnotationType().toString().endsWith("Override"));
      boolean made = m.getName().contentEquals("<init>");
      if (!open || inherited || made || isAccessor(m) || isWither(m)) {
        return null;
      }
      methods[0]++;
      if (docs.getDocCommentTree(new TreePath(getCurrentPath().getParentPath(), m)) == null) {
        missing.add(in.getSimpleName() + "." + m.getName());
        byClass.merge(in.getSimpleName().toString(), 1, Integer::sum);
      }
      return null;
    }

    /** The same value with one part replaced: what an accessor is to reading. */
    private static boolean isWither(MethodTree m) {
      return m.getName().toString().matches("with[A-Z].*") && m.getParameters().size() == 1;
    }

    /** No parameter, and nothing but a field or a constant given back. */
    private static boolean isAccessor(MethodTree m) {
      if (!m.getParameters().isEmpty() || m.getBody() == null) {
        return false;
      }
      List<? extends Tree> body = m.getBody().getStatements();
      return body.size() == 1
          && body.get(0) instanceof ReturnTree r
          && (r.getExpression() instanceof IdentifierTree
              || r.getExpression() instanceof MemberSelectTree
              || r.getExpression() instanceof LiteralTree);
    }
  }
}
