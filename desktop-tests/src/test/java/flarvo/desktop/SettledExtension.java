package flarvo.desktop;

import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.testfx.framework.junit5.ApplicationExtension;

/** TestFX as it comes, with a robot that waits for what it did. */
final class SettledExtension extends ApplicationExtension {

  @Override
  public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
    return new SettledRobot();
  }
}
