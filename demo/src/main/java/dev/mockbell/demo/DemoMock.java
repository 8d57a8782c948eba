package dev.mockbell.demo;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.mock.MemoryStep.Forget;
import dev.mockbell.mock.MemoryStep.Remember;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.Pause;
import java.nio.file.Path;
import java.util.List;

/**
 * A mock of hut booking that keeps state without code: what is reserved can be read back and cancelled, and is gone then. Its huts and
 * rates are in tables.
 */
final class DemoMock {
    private static final String NAMESPACE = "xmlns:hb=\"urn:northfell:hut-booking\"";
    private static final String HUT = "bell:look-up('huts.csv', 'hutId', $request//hutId)";
    private static final String NIGHTLY =
            "round(xs:decimal(bell:look-up('rates.csv', 'board', ($request//board, 'NONE')[1])?rate)"
                    + " * count($request//guest), 2)";
    private static final String KNOWN = "exists($stays?($request//code))";

    private static final String HUTS = """
            hutId,name,area,bunks
            NF-03,Birch Saddle Hut,Skarn,18
            NF-07,Skarn Tarn Hut,Skarn,40
            NF-11,Kettle Ridge Hut,Kettle,24
            NF-12,Little Cairn Hut,Kettle,4
            NF-20,Wolfgill Hut,Outer Fells,12
            """;
    private static final String RATES = """
            board,rate
            NONE,36.00
            HALF,46.125
            FULL,52.00
            """;

    private final Contract contract;

    DemoMock(Contract contract) {
        this.contract = contract;
    }

    /** Writes the tables that its answers look things up in. */
    static void files(Path project) {
        Path folder = project.resolve("mocks").resolve(DemoProject.CONTRACT);
        AtomicFile.write(folder.resolve("huts.csv"), HUTS);
        AtomicFile.write(folder.resolve("rates.csv"), RATES);
    }

    MockPlan plan(int port) {
        return MockPlan.sampling(DemoProject.CONTRACT, port)
                .withAnswers("FindHuts", List.of(huts()))
                .withAnswers("ReserveBunks", reserve())
                .withAnswers("GetReservation", read())
                .withAnswers("CancelReservation", cancel());
    }

    private MockAnswer fault(String operation, String name, String when, String reason, String detail) {
        FaultDef declared = contract.operation(operation, null).orElseThrow().operation().faults().stream()
                .filter(f -> f.name().equals(name))
                .findFirst()
                .orElseThrow();
        String element = declared.element().orElseThrow().getLocalPart();
        return MockAnswer.fault(
                when, name, reason, "<hb:" + element + " " + NAMESPACE + ">" + detail + "</hb:" + element + ">");
    }

    private static MockAnswer huts() {
        return MockAnswer.otherwise("huts", """
                <hb:FindHutsResponse %s>
                  <?for $hut in bell:rows('huts.csv')[empty($request//area) or ?area = $request//area]?><hb:hut>
                    <hb:hutId>{$hut?hutId}</hb:hutId>
                    <hb:name>{$hut?name}</hb:name>
                    <hb:area>{$hut?area}</hb:area>
                    <hb:bunksFree>{$hut?bunks}</hb:bunksFree>
                  </hb:hut><?end?>
                </hb:FindHutsResponse>""".formatted(NAMESPACE));
    }

    private List<MockAnswer> reserve() {
        return List.of(
                fault(
                        "ReserveBunks",
                        "UnknownHut",
                        "empty(" + HUT + ")",
                        "There is no such hut",
                        "<hb:hutId>{$request//hutId}</hb:hutId>"),
                fault(
                        "ReserveBunks",
                        "BadDate",
                        "xs:date($request//arrival) lt current-date()",
                        "The date will not do",
                        "<hb:date>{$request//arrival}</hb:date><hb:why>The day of arrival is in the past.</hb:why>"),
                fault(
                                "ReserveBunks",
                                "HutFull",
                                "count($request//guest) > " + HUT + "?bunks",
                                "No bunks left",
                                "<hb:hutId>{$request//hutId}</hb:hutId><hb:bunksLeft>{" + HUT
                                        + "?bunks}</hb:bunksLeft>")
                        .with(new Pause.Fixed(120)),
                MockAnswer.otherwise("reservation", reservation())
                        .withAfter(List.of(
                                new Remember("stays", "$answer//code", "$answer//reservation"),
                                new Remember("lastCode", "", "string($answer//code)")))
                        .with(new Pause.Between(20, 60)));
    }

    private static String reservation() {
        return """
                <hb:ReserveBunksResponse %1$s>
                  <hb:reservation>
                    <hb:code>R-{20416 + $hits mod 79000}</hb:code>
                    <hb:hutName>{%2$s?name}</hb:hutName>
                    <hb:bunks>{count($request//guest)}</hb:bunks>
                    <hb:total>{format-number(%3$s * $request//nights, '0.00')}</hb:total>
                    <hb:currency>EUR</hb:currency>
                    <hb:holdUntil>{format-date(xs:date($request//arrival) - xs:dayTimeDuration('P13D'), '[Y0001]-[M01]-[D01]')}T18:00:00Z</hb:holdUntil>
                    <?for $n in 0 to xs:integer($request//nights) - 1?><hb:nightlyRate>
                      <hb:night>{xs:date($request//arrival) + $n * xs:dayTimeDuration('P1D')}</hb:night>
                      <hb:amount>{format-number(%3$s, '0.00')}</hb:amount>
                    </hb:nightlyRate><?end?>
                  </hb:reservation>
                </hb:ReserveBunksResponse>""".formatted(NAMESPACE, HUT, NIGHTLY);
    }

    private MockAnswer unknown(String operation) {
        return fault(
                operation,
                "UnknownReservation",
                "",
                "There is no such reservation",
                "<hb:code>{$request//code}</hb:code>");
    }

    private List<MockAnswer> read() {
        return List.of(
                MockAnswer.message(
                        KNOWN,
                        "as it was made",
                        "<hb:GetReservationResponse " + NAMESPACE
                                + "><?for $stay in $stays?($request//code)?>{$stay}<?end?></hb:GetReservationResponse>"),
                unknown("GetReservation"));
    }

    private List<MockAnswer> cancel() {
        return List.of(
                MockAnswer.message(KNOWN, "refund", """
                        <hb:CancelReservationResponse %s>
                          <hb:refund>{format-number(round($stays?($request//code)/total * 0.9, 2), '0.00')}</hb:refund>
                          <hb:currency>EUR</hb:currency>
                        </hb:CancelReservationResponse>""".formatted(NAMESPACE))
                        .withAfter(List.of(new Forget("stays", "$request//code"))),
                unknown("CancelReservation"));
    }
}
