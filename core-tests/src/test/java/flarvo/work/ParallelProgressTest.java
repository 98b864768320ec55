package flarvo.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ParallelProgressTest {

  @Test
  void theWholeIsTheSumOfItsPartsAndNeverGoesBack() {
    List<String> told = new ArrayList<>();
    boolean[] cancelled = {false};
    Progress whole =
        new Progress() {
          @Override
          public void at(long done, long total) {
            told.add(done + "/" + total);
          }

          @Override
          public boolean isCancelled() {
            return cancelled[0];
          }
        };
    ParallelProgress parts = new ParallelProgress(whole, 2);
    Progress a = parts.part(0);
    Progress b = parts.part(1);

    a.at(1, 2);
    b.at(1, 4);
    a.at(0, 3); // a stage of its own, from the beginning
    a.at(5, 0); // not known how much
    a.at(9, 9);
    b.at(8, 4); // more than it said

    assertThat(told)
        .containsExactly("500/2000", "750/2000", "750/2000", "750/2000", "1250/2000", "2000/2000");
    assertThat(b.isCancelled()).isFalse();
    cancelled[0] = true;
    assertThat(a.isCancelled()).isTrue();
  }
}
