package dev.mockbell.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.load.Health;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.Spent;
import dev.mockbell.load.StepFigures;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class LoadReportTest {
    private static StepFigures figures(StepFigures.Kind kind, String name) {
        return new StepFigures(kind, name, 120, 3, 1, 12, 1.5, 20.25, 18, 40, 55, 90.125, 200, 300, 17.5, 89);
    }

    private final StepFigures step = figures(StepFigures.Kind.STEP, "Find, \"a\" hut");
    private final StepFigures total = figures(StepFigures.Kind.ALL, "all");
    private final Limit limit = new Limit(Limit.Measure.P95, 50);
    private final LoadRun run = new LoadRun(
            LoadPlan.of("rush", "Saturday <rush>", "s", LoadShape.arrivals(12, 10))
                    .withLimits(List.of(limit)),
            Instant.parse("2026-11-23T08:00:00Z"),
            10.2,
            false,
            total,
            List.of(step),
            List.of(new Spent(Spent.Stage.SERVER, 120, 19, 17, 88, 290)),
            Map.of("fault HutFull", 3L),
            List.of(limit.judge(total, 10.2, 100)),
            List.of(new LoadSecond(
                    1,
                    12,
                    11,
                    1,
                    1,
                    0,
                    18,
                    50,
                    80,
                    List.of(11L),
                    List.of(step),
                    total,
                    List.of(),
                    new Health(0.8, 0, 0.31, 0.5, 0, 0.2, 4))),
            Health.UNKNOWN,
            List.of("The generator was late."),
            List.of(),
            List.of());

    @Test
    void stepsAreALineEachWithQuotedNames() {
        assertThat(LoadCsv.steps(run))
                .isEqualTo(
                        "step,done,failed,per_second,min,mean,p50,p90,p95,p99,max,p99.9,begun_p50,begun_p99\r\n"
                                + "\"Find, \"\"a\"\" hut\",120,3,12.000,1.500,20.250,18.000,40.000,55.000,90.125,300.000,200.000,17.500,89.000\r\n"
                                + "all,120,3,12.000,1.500,20.250,18.000,40.000,55.000,90.125,300.000,200.000,17.500,89.000\r\n");
    }

    @Test
    void secondsAreALineEach() {
        assertThat(LoadCsv.seconds(run))
                .isEqualTo(
                        "second,started,done,failed,in_flight,p50,p95,p99,latest_start\r\n1,12,11,1,1,18.000,50.000,80.000,0.800\r\n");
    }

    @Test
    void limitsAreTestsForWhoReadsJUnitXml() {
        assertThat(JUnitXml.of(run))
                .contains("<testsuite name=\"Saturday &lt;rush>\" tests=\"1\" failures=\"1\"")
                .contains("<testcase name=\"p95 under 50 ms\" classname=\"rush\"")
                .contains("message=\"found 55.000\"");
    }

    @Test
    void metricsAreOfTheFormThatIsAskedFor() {
        LoadSecond second = run.history().get(0);
        assertThat(LoadMetrics.of(false, "Saturday \"rush\"", second))
                .contains("# TYPE mockbell_load_requests_total counter\n")
                .contains("mockbell_load_requests_total{plan=\"Saturday \\\"rush\\\"\",step=\"all\"} 120\n")
                .contains(
                        "mockbell_load_response_seconds{plan=\"Saturday \\\"rush\\\"\",step=\"all\",quantile=\"0.95\"} 0.055000\n")
                .doesNotContain("# EOF");
        assertThat(LoadMetrics.of(true, "r", second))
                .contains("# TYPE mockbell_load_requests counter\n")
                .contains("mockbell_load_requests_total{plan=\"r\",step=\"all\"} 120\n")
                .endsWith("# EOF\n");
        assertThat(LoadMetrics.of(true, "r", null)).isEqualTo("# EOF\n");
    }

    @Test
    void theHtmlSaysWhatWasNotKeptAndWhyThingsFailed() {
        String html = HtmlReport.ofLoads("Northfell", List.of(run), ZoneOffset.UTC);
        assertThat(html)
                .contains("Saturday &lt;rush&gt;")
                .contains("p95 under 50 ms, found 55")
                .contains("fault HutFull")
                .contains("The generator was late.")
                .contains("2026-11-23 08:00:00")
                .contains("12/s for 10 s")
                .contains("<svg class=\"chart\"")
                .contains("server 19");
        assertThat(run.passed()).isFalse();
    }
}
