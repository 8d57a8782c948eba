package dev.mockbell.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LedgerSearchTest {
    private static final Instant MORNING = Instant.parse("2026-11-23T08:00:00Z");

    @TempDir
    Path folder;

    private final Expressions expressions = new Expressions();
    private Ledger ledger;

    @BeforeEach
    void open() {
        ledger = Ledger.open(folder.resolve("l.db"));
    }

    @AfterEach
    void close() {
        ledger.close();
    }

    private static HttpMessage message(String title, String body) {
        return new HttpMessage(
                title,
                List.of(new Header("X-Trip", "T-" + body.length())),
                Content.of(body.getBytes(StandardCharsets.UTF_8)),
                Content.NONE);
    }

    private long add(Way way, String operation, int status, long millis, Outcome outcome, String asked, String told) {
        Exchange e = new Exchange(
                0,
                MORNING.plusSeconds(millis),
                way,
                "stay",
                operation,
                "http://127.0.0.1:8480/stay",
                way == Way.CALLED ? "Two nights" : "mock answer 2",
                message("POST /stay HTTP/1.1", asked),
                status == 0 ? Optional.empty() : Optional.of(message("HTTP/1.1 " + status + " X", told)),
                new Timing(0, 0, millis * 1_000_000, 0),
                outcome,
                outcome == Outcome.FINE ? "" : "NoRoom");
        return ledger.add(e.with(new Ties(way == Way.CALLED ? "" : "127.0.0.1", way == Way.CALLED ? "case c1" : "")))
                .id();
    }

    private void three() {
        add(Way.CALLED, "Book", 200, 20, Outcome.FINE, "<hut nights='2'>Skarn</hut>", "<fee>40.5</fee>");
        add(Way.ANSWERED, "Book", 500, 300, Outcome.FAULT, "<hut nights='14'>Kettle Äcker</hut>", "<no/>");
        add(Way.CALLED, "Tell", 0, 5_000, Outcome.FAILED, "no xml at all", "");
    }

    private List<Long> found(String filter) {
        List<Long> ids = new ArrayList<>();
        ledger.search(
                LedgerFilter.typed(filter),
                Order.NEWEST,
                Long.MAX_VALUE,
                expressions,
                new StopSignal(),
                line -> ids.add(line.id()));
        return ids;
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "way:called|3 1",
                "-way:called|2",
                "operation:book|2 1",
                "operation:B*|2 1",
                "operation:Boo|''",
                "operation:Book operation:Tell|3 2 1",
                "result:fault result:failed|3 2",
                "-result:fine|3 2",
                "status:5xx|2",
                "status:none|3",
                "status:200..500|2 1",
                "took:>100ms|3 2",
                "took:20ms|1",
                "took:..300ms|2 1",
                "took:>=5s|3",
                "sent:<20|3",
                "received:>0|2 1",
                "endpoint:8480/ST|3 2 1",
                "caller:127.0|2",
                "from:nights|3 1",
                "note:noroom|3 2",
                "of:case*c1|3 1",
                "number:2..|3 2",
                "time:2026-11-23T08:01:00Z..2026-11-23T08:10:00Z|2",
                "time:2026-11-23T08:01:00Z..|3 2",
                "since:10m|''",
                "skarn|1",
                "-skarn|3 2",
                "KETTLE äcker|2",
                "\"kettle Äcker\"|2",
                "word:kett|''",
                "word:kettle|2",
                "T-13|3",
                "40.5 way:called|1",
                "40.5 way:answered|''",
                "40|1",
                "urn:nobody|''",
                "where:\"$request/hut/@nights > 10\"|2",
                "where:\"$response/fee > 40\" operation:Book|1",
                "-where:\"$request/hut\"|3",
                "where:\"1 div 0\"|''",
                "pinned:yes|''"
            })
    void filtersPickWhatTheySay(String filter, String wanted) {
        three();
        List<Long> expected = wanted.isEmpty()
                ? List.of()
                : List.of(wanted.split(" ")).stream().map(Long::valueOf).toList();
        assertThat(found(filter)).as("before full text knows them").isEqualTo(expected);
        ledger.index();
        assertThat(found(filter)).as("by full text").isEqualTo(expected);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "status:abc",
                "took:5 took:fast",
                "way:sideways",
                "since:ever",
                "time:noon",
                "received:5ms",
                "pinned:no"
            })
    void whatCannotBeAskedIsSaid(String filter) {
        assertThatThrownBy(() -> LedgerFilter.typed(filter))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("cannot be asked");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "way:called -result:fine operation:Book*",
                "status:5xx status:none took:200ms.. sent:..10000",
                "\"no room\" word:Skarn -kettle where:\"$request//nights = 2\"",
                "since:10m time:2026-11-23T08:00:00Z.. pinned:yes",
                "text:urn:huts text:-5 \"a \\\"b\\\" \\\\c\""
            })
    void aFilterReadsBackWhatItWrites(String typed) {
        LedgerFilter filter = LedgerFilter.typed(typed);
        assertThat(filter.typed()).isEqualTo(typed);
        assertThat(LedgerFilter.typed(filter.typed())).isEqualTo(filter);
    }

    @Test
    void aConditionThatDoesNotParseIsToldAndStoppingStops() {
        three();
        assertThatThrownBy(() -> found("where:\"$request[\"")).isInstanceOf(Problem.class);
        StopSignal stop = new StopSignal();
        stop.stop();
        assertThatThrownBy(() -> ledger.search(
                        LedgerFilter.typed("skarn"), Order.NEWEST, Long.MAX_VALUE, expressions, stop, l -> true))
                .isInstanceOf(Problem.class);
    }

    @Test
    void searchesGoOnWhereOneEnded() {
        for (int i = 0; i < 30; i++) {
            add(Way.CALLED, "Book", 200, 1, Outcome.FINE, "<a>Skarn " + i + "</a>", "<b/>");
            if (i == 19) {
                ledger.index();
            }
        }
        for (String filter : List.of("", "skarn")) {
            List<Long> all = new ArrayList<>();
            long before = Long.MAX_VALUE;
            for (int page = 0; page < 10; page++) {
                List<Long> some = new ArrayList<>();
                ledger.search(LedgerFilter.typed(filter), Order.NEWEST, before, null, new StopSignal(), line -> {
                    some.add(line.id());
                    return some.size() < 7;
                });
                all.addAll(some);
                before = some.isEmpty() ? 0 : some.get(some.size() - 1);
            }
            assertThat(all)
                    .as(filter)
                    .hasSize(30)
                    .doesNotHaveDuplicates()
                    .isSortedAccordingTo((a, b) -> Long.compare(b, a));
        }
    }

    @Test
    void linesAreOrderedAsWanted() {
        three();
        for (String filter : List.of("", "http", "number:..9")) {
            assertThat(ordered(filter, new Order(Order.Column.TOOK, true))).containsExactly(3L, 2L, 1L);
            assertThat(ordered(filter, new Order(Order.Column.TOOK, false))).containsExactly(1L, 2L, 3L);
            assertThat(ordered(filter, new Order(Order.Column.OPERATION, false)))
                    .containsExactly(2L, 1L, 3L);
            assertThat(ordered(filter, new Order(Order.Column.NUMBER, false))).containsExactly(1L, 2L, 3L);
        }
    }

    private List<Long> ordered(String filter, Order order) {
        List<Long> ids = new ArrayList<>();
        ledger.search(LedgerFilter.typed(filter), order, Long.MAX_VALUE, null, new StopSignal(), l -> ids.add(l.id()));
        return ids;
    }

    @Test
    void figuresSayWhatIsShown() {
        three();
        for (String filter : List.of("", "http/1.1")) {
            Figures figures = ledger.figures(LedgerFilter.typed(filter), expressions, new StopSignal());
            assertThat(figures.count()).isEqualTo(3);
            assertThat(figures.failed()).isEqualTo(2);
            assertThat(figures.p50() / 1_000_000).isEqualTo(300);
            assertThat(figures.p95() / 1_000_000.0).isBetween(4_990.0, 5_010.0);
            assertThat(figures.bytes()).isGreaterThan(60);
        }
        assertThat(ledger.figures(LedgerFilter.typed("nobody"), expressions, new StopSignal()))
                .isEqualTo(Figures.NONE);
    }

    @Test
    void theSameBytesAreKeptOnceAndLongOnesCompressed() throws Exception {
        String body = "<hut>" + "Skarn of the north. ".repeat(20_000) + "</hut>";
        for (int i = 0; i < 40; i++) {
            add(Way.CALLED, "Book", 200, 1, Outcome.FINE, body, "<b>" + i + "</b>");
        }
        ledger.close();
        long size = Files.size(folder.resolve("l.db"));
        assertThat(size).as("forty of 400 KB").isLessThan(400_000);
        open();
        assertThat(ledger.get(17).orElseThrow().request().text()).isEqualTo(body);
        long again = add(Way.CALLED, "Book", 200, 1, Outcome.FINE, body, "<b/>");
        assertThat(ledger.get(again).orElseThrow().request().text()).isEqualTo(body);
    }

    @Test
    void oldOnesGoAndWhatIsPinnedOrReferredToStays() {
        ledger.close();
        ledger = Ledger.open(folder.resolve("l.db"), Retention.USUAL, () -> Set.of(4L));
        for (int i = 1; i <= 30; i++) {
            add(Way.CALLED, "Book", 200, 1, Outcome.FINE, "<a>trip " + i + "</a>", "<b/>");
        }
        ledger.index();
        ledger.pin(List.of(2L, 3L), true);
        ledger.pin(List.of(3L), false);
        assertThat(found("pinned:yes")).containsExactly(2L);
        long gone = ledger.prune(new Retention(10, Long.MAX_VALUE, Optional.empty()));
        assertThat(gone).isEqualTo(18);
        assertThat(found("")).hasSize(12).endsWith(21L, 4L, 2L);
        assertThat(found("\"trip 5<\"")).isEmpty();
        assertThat(found("\"trip 2<\"")).containsExactly(2L);
        assertThat(ledger.get(2).orElseThrow().request().text()).isEqualTo("<a>trip 2</a>");
        long next = add(Way.CALLED, "Book", 200, 1, Outcome.FINE, "<a>trip 5</a>", "<b/>");
        assertThat(next).isEqualTo(31);
        assertThat(ledger.get(31).orElseThrow().request().text()).isEqualTo("<a>trip 5</a>");
        assertThat(ledger.prune(new Retention(1_000, 0, Optional.empty()))).isEqualTo(11);
        assertThat(found("")).containsExactly(4L, 2L);
        assertThat(ledger.prune(new Retention(1_000, Long.MAX_VALUE, Optional.of(Duration.ZERO))))
                .isZero();
    }

    @Test
    void anotherProgramThatSweptTakesNoBytesFromThisOne() {
        String body = "<a>the same again</a>";
        add(Way.CALLED, "Book", 200, 1, Outcome.FINE, body, "<b/>");
        try (Ledger other = Ledger.open(folder.resolve("l.db"))) {
            other.prune(new Retention(0, Long.MAX_VALUE, Optional.empty()));
        }
        long id = add(Way.CALLED, "Book", 200, 1, Outcome.FINE, body, "<b/>");
        assertThat(ledger.get(id).orElseThrow().request().text()).isEqualTo(body);
    }
}
