package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.drive.Watchdog;
import dev.mockbell.desktop.toolkit.Toolkit;
import java.lang.management.ManagementFactory;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javafx.application.Platform;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

class WatchdogTest {
    @BeforeAll
    static void screen() {
        Toolkit.start();
    }

    @Test
    void aTurnThatWorksTooLongIsToldWithWhatItWasAt() {
        Watchdog dog = Watchdog.start();
        Hand.run(() -> heavy(Watchdog.WORK + Watchdog.WORK / 4));
        assertThatThrownBy(dog::close).hasMessageContaining("held by work").hasMessageContaining("WatchdogTest.heavy");
    }

    @Test
    void aTurnThatWaitsIsToldThoughItDoesNothing() throws InterruptedException {
        CountDownLatch never = new CountDownLatch(1);
        Watchdog dog = Watchdog.start();
        Platform.runLater(() -> await(never));
        // on a busy machine it looks less often, so that it takes longer to be sure
        Throwable told = null;
        for (int looks = 0; told == null && looks < 600; looks++) {
            Thread.sleep(50);
            told = catchThrowable(dog::check);
        }
        never.countDown();
        assertThat(told).hasMessageContaining("waited for something else").hasMessageContaining("WatchdogTest.await");
        assertThatCode(dog::close).as("told once").doesNotThrowAnyException();
    }

    @Test
    void muchWorkInManyTurnsIsNothingToTell() {
        Watchdog dog = Watchdog.start();
        for (int i = 0; i < 30; i++) {
            Hand.run(() -> heavy(Watchdog.WORK / 20));
        }
        assertThatCode(dog::close).doesNotThrowAnyException();
    }

    private static void heavy(long nanos) {
        long begin = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
        while (ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime() - begin < nanos) {
            Math.sqrt(begin);
        }
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await(40, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
