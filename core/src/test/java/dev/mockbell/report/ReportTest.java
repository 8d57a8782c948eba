package dev.mockbell.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import java.io.StringReader;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.XMLConstants;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.SchemaFactory;
import org.junit.jupiter.api.Test;
import org.xmlunit.builder.Input;
import org.xmlunit.xpath.JAXPXPathEngine;

class ReportTest {
    private final Run run = new Run(
            "whole-stay",
            "A <whole> stay",
            "Local",
            Instant.parse("2026-11-23T08:00:00.5Z"),
            1_234,
            List.of(
                    new StepResult(
                            "Reserve",
                            Verdict.PASSED,
                            31,
                            1,
                            List.of(CheckResult.passed("No fault", "200", "")),
                            Map.of("code", "R-1"),
                            ""),
                    new StepResult(
                            "Read \"back\"",
                            Verdict.FAILED,
                            22,
                            2,
                            List.of(CheckResult.failed("total", "612.50", "599\u0001", "/a & b")),
                            Map.of(),
                            ""),
                    StepResult.notRun("Cancel", "stopped before it")));

    @Test
    void junitXmlIsValidAndCountsRight() throws Exception {
        String xml = JUnitXml.of(
                List.of(run),
                Map.of("contracts", "hut-booking"),
                n -> n == 2 ? Optional.of(new ExchangeTexts.Both("POST /", "<answer>")) : Optional.empty());
        SchemaFactory.newInstance(XMLConstants.W3C_XML_SCHEMA_NS_URI)
                .newSchema(ReportTest.class.getResource("/junit.xsd"))
                .newValidator()
                .validate(new StreamSource(new StringReader(xml)));
        JAXPXPathEngine xpath = new JAXPXPathEngine();
        var source = Input.fromString(xml).build();
        assertThat(xpath.evaluate(
                        "concat(/testsuites/@tests, ' ', /testsuites/@failures, ' ', //testsuite/@skipped)", source))
                .isEqualTo("3 1 1");
        assertThat(xpath.evaluate("//failure/@message", source))
                .isEqualTo("total: should be 612.50, found 599\uFFFD (/a & b)");
        assertThat(xpath.evaluate("//failure", source))
                .contains("should be: 612.50")
                .contains("at: /a & b");
        assertThat(xpath.evaluate("//system-out", source))
                .contains("sent:\nPOST /")
                .contains("answered:\n<answer>");
        assertThat(xpath.evaluate("//property[@name='contracts']/@value", source))
                .isEqualTo("hut-booking");
    }

    @Test
    void rowsAndRoundsAreTestcasesOfTheirOwn() {
        StepResult good = new StepResult("row 1", Verdict.PASSED, 1, 0, List.of(), Map.of(), "");
        StepResult bad = StepResult.failed("row 2", "No answer");
        Run rows = new Run(
                "s",
                "S",
                "",
                Instant.EPOCH,
                1,
                List.of(),
                List.of(StepResult.holding("Convert", 2, List.of(good, bad), true)),
                List.of(good.named("Tidy")),
                Map.of());
        String xml = JUnitXml.of(List.of(rows), Map.of(), ExchangeTexts.NONE);
        assertThat(new JAXPXPathEngine()
                        .evaluate(
                                "concat(//testcase[1]/@name, '|', //testcase[2]/@name, '|', //testcase[3]/@name)",
                                Input.fromString(xml).build()))
                .isEqualTo("Convert · row 1|Convert · row 2|clean-up · Tidy");
    }

    @Test
    void theHtmlReportStandsAloneAndEscapes() {
        String html = HtmlReport.of("Northfell", List.of(run), List.of(), ZoneOffset.UTC, ExchangeTexts.NONE);
        assertThat(html)
                .contains("A &lt;whole&gt; stay")
                .contains("1 of 2 checks passed")
                .doesNotContain("<script")
                .doesNotContain("href=")
                .doesNotContain("src=");
    }
}
