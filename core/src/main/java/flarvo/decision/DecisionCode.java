package flarvo.decision;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** The word that stands for a kind of decision or outcome in files. It never changes. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.TYPE)
public @interface DecisionCode {
  /** Lower case, words joined by hyphens. */
  String value();
}
