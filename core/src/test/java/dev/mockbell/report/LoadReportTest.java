package dev.mockbell.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.StepFigures;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class LoadReportTest {
    private final StepFigures step =
            new StepFigures("Find, \"a\" hut", 120, 3, 12, 1.5, 20.25, 18, 40, 55, 90.125, 300);
    private final StepFigures total = new StepFigures("all", 120, 3, 12, 1.5, 20.25, 18, 40, 55, 90.125, 300);
    private final Limit limit = new Limit(Limit.Measure.P95, 50);
    private final LoadRun run = new LoadRun(
            new LoadPlan("rush", "Saturday <rush>", "s", "", new LoadShape.Arrivals(12), 10, 1_000, List.of(limit)),
            Instant.parse("2026-11-23T08:00:00Z"),
            10.2,
            false,
            total,
            List.of(step),
            Map.of("fault HutFull", 3L),
            List.of(limit.judge(total, 10.2)),
            List.of(new LoadSecond(1, 12, 11, 1, 1, 18, 50, 80, List.of(11L), List.of(step), total, 0.8, 0.31)),
            List.of("The generator was late."));

    @Test
    void stepsAreALineEachWithQuotedNames() {
        assertThat(LoadCsv.steps(run))
                .isEqualTo("step,done,failed,per_second,min,mean,p50,p90,p95,p99,max\r\n"
                        + "\"Find, \"\"a\"\" hut\",120,3,12.000,1.500,20.250,18.000,40.000,55.000,90.125,300.000\r\n"
                        + "all,120,3,12.000,1.500,20.250,18.000,40.000,55.000,90.125,300.000\r\n");
    }

    @Test
    void secondsAreALineEach() {
        assertThat(LoadCsv.seconds(run))
                .isEqualTo(
                        "second,started,done,failed,in_flight,p50,p95,p99,latest_start\r\n1,12,11,1,1,18.000,50.000,80.000,0.800\r\n");
    }

    @Test
    void theHtmlSaysWhatWasNotKeptAndWhyThingsFailed() {
        String html = HtmlReport.ofLoads("Northfell", List.of(run), ZoneOffset.UTC);
        assertThat(html)
                .contains("Saturday &lt;rush&gt;")
                .contains("p95 under 50 ms, found 55")
                .contains("fault HutFull")
                .contains("The generator was late.")
                .contains("2026-11-23 08:00:00");
        assertThat(run.passed()).isFalse();
    }
}
