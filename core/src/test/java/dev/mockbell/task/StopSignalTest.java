package dev.mockbell.task;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class StopSignalTest {
    private final StopSignal stop = new StopSignal();

    @Test
    void checkPassesUntilTheStopAndThrowsAfterwards() {
        assertThatCode(stop::check).doesNotThrowAnyException();
        stop.stop();
        assertThat(stop.isStopped()).isTrue();
        assertThatThrownBy(stop::check).isInstanceOf(Problem.class).hasMessage("Stopped.");
    }

    @Test
    void actionsRunOnceAlsoWhenTheyComeLate() {
        AtomicInteger runs = new AtomicInteger();
        stop.onStop(runs::incrementAndGet);
        stop.stop();
        stop.stop();
        stop.onStop(runs::incrementAndGet);
        assertThat(runs).hasValue(2);
    }
}
