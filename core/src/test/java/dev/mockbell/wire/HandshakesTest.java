package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.slf4j.LoggerFactory;

class HandshakesTest {
    @Test
    void itAgreesAsOftenAsIsWantedAndEachAgreementIsWhole() {
        ListAppender<ILoggingEvent> told = new ListAppender<>();
        told.start();
        Logger log = (Logger) LoggerFactory.getLogger(Handshakes.class);
        log.addAppender(told);
        AtomicInteger asked = new AtomicInteger();
        try {
            Handshakes.practise(() -> asked.incrementAndGet() > 5);
        } finally {
            log.detachAppender(told);
        }
        assertThat(asked.get()).isEqualTo(6);
        assertThat(told.list).as("nothing went wrong").isEmpty();
    }
}
