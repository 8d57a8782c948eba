package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;

/** The library asks nobody whether to go on; compiling ends at a stop all the same. */
class StoppedCompilingTest {
    private static SchemaSource large(int types) {
        StringBuilder text = new StringBuilder(
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' xmlns:t='urn:t' targetNamespace='urn:t'>");
        for (int i = 0; i < types; i++) {
            text.append("<xs:complexType name='T").append(i).append("'><xs:sequence>");
            for (int e = 0; e < 5; e++) {
                text.append("<xs:element name='e")
                        .append(e)
                        .append("' type='t:T")
                        .append((i + 1) % types)
                        .append("'/>");
            }
            text.append("</xs:sequence></xs:complexType>");
        }
        var root = Xml.parse(text.append("</xs:schema>").toString(), "mem:/large.xsd", XmlLimits.CONTRACT)
                .getDocumentElement();
        return new SchemaSource("mem:/large.xsd", "urn:t", root, false);
    }

    @Test
    void aStopEndsIt() throws InterruptedException {
        StopSignal stop = new StopSignal();
        SchemaSource source = large(20_000);
        AtomicReference<Throwable> ended = new AtomicReference<>();
        CountDownLatch begun = new CountDownLatch(1);
        Thread compiling = new Thread(() -> {
            begun.countDown();
            try {
                Schemas.compile(List.of(source), stop);
            } catch (Problem problem) {
                ended.set(problem);
            }
        });
        compiling.start();
        begun.await();
        Thread.sleep(30);
        stop.stop();
        compiling.join();
        assertThat(ended.get())
                .isInstanceOfSatisfying(Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.STOPPED));
    }

    @Test
    void whatIsNotStoppedIsWhole() {
        Schemas whole = Schemas.compile(List.of(large(500)), new StopSignal());
        assertThat(whole.flaws()).isEmpty();
        assertThat(whole.size()).isEqualTo(500);
    }
}
