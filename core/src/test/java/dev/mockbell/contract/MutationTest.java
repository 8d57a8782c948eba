package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Good contracts, broken at random: each is read with findings or refused in words, and never ends in anything else. */
class MutationTest {
    private static final String[] SCRAPS = {
        "<",
        ">",
        "\"",
        "xs:",
        "tns:",
        "</",
        "/>",
        "&#0;",
        "&x;",
        "<!--",
        "]]>",
        "maxOccurs='-1'",
        "minOccurs='9999999999'",
        "type=\"xs:gone\"",
        "<xs:any/>",
        "<xs:redefine schemaLocation='stay.xsd'/>",
        "ref='st:Book'",
        "\u0000",
        "\uFFFF",
        "xmlns:xs=''"
    };

    private static String read(String name) throws IOException {
        return new String(
                MutationTest.class.getResourceAsStream("/contracts/" + name).readAllBytes(), StandardCharsets.UTF_8);
    }

    private static String mutated(String text, Random random) {
        StringBuilder out = new StringBuilder(text);
        for (int i = 0; i < 1 + random.nextInt(3); i++) {
            int at = random.nextInt(out.length());
            int to = Math.min(out.length(), at + 1 + random.nextInt(40));
            switch (random.nextInt(4)) {
                case 0 -> out.delete(at, to);
                case 1 -> out.insert(at, SCRAPS[random.nextInt(SCRAPS.length)]);
                case 2 -> out.insert(at, out.substring(at, to));
                default -> out.replace(at, to, SCRAPS[random.nextInt(SCRAPS.length)]);
            }
        }
        return out.toString();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void whateverIsBrokenIsToldInWords(long seed) throws IOException {
        Random random = new Random(seed);
        String wsdl = read("stay.wsdl").replace("types/", "");
        String xsd = read("types/stay.xsd");
        String people = read("types/people.xsd");
        for (int i = 0; i < 60; i++) {
            boolean breakWsdl = random.nextBoolean();
            try {
                Contract contract = Contracts.of(
                        "stay.wsdl",
                        breakWsdl ? mutated(wsdl, random) : wsdl,
                        "stay.xsd",
                        breakWsdl ? xsd : mutated(xsd, random),
                        "people.xsd",
                        people);
                for (Port port : contract.soapPorts()) {
                    for (Operation operation : port.binding().operations()) {
                        for (Detail detail : Detail.values()) {
                            assertThat(SampleEnvelope.of(contract, port.binding(), operation, detail))
                                    .allSatisfy(e -> assertThat(e.text()).contains("Envelope"));
                        }
                    }
                }
            } catch (Problem refused) {
                assertThat(refused.getMessage())
                        .as("seed %s, round %s", seed, i)
                        .isNotBlank()
                        .doesNotContain("Exception");
            }
        }
    }
}
