package dev.mockbell.sample;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.SecondValidator;
import dev.mockbell.schema.TypeDef;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.Set;
import java.util.stream.IntStream;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Samples of schemas that were made up at random, judged by a validator that others wrote. */
class SecondOpinionTest {
    private static IntStream seeds() {
        // it takes as much as it can, and does not count repeats within repeats
        return IntStream.rangeClosed(1, 240).filter(seed -> !Counting.within(contract(seed)));
    }

    private static Contract contract(int seed) {
        return Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(RandomSchemas.of(seed))));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void samplesOfRandomSchemasAreValidToItToo(int seed) {
        Contract contract = contract(seed);
        SecondValidator second = new SecondValidator(contract.schemas());
        MessageOutline outline = MessageOutline.ofRequest(
                contract, contract.operation("Do", null).orElseThrow().operation());
        for (Detail detail : Detail.values()) {
            String text = SampleBuilder.text(outline, detail);
            assertThat(second.errors(text)).as(text).isEmpty();
        }
    }

    /** Finds groups that must repeat and hold what may repeat, which the second validator cannot tell apart. */
    private static final class Counting {
        private final Set<TypeDef> seen = Collections.newSetFromMap(new IdentityHashMap<>());

        static boolean within(Contract contract) {
            return new Counting()
                    .in(contract.schemas()
                            .element(new QName("urn:t", "Root"))
                            .orElseThrow()
                            .type());
        }

        private boolean in(TypeDef type) {
            return seen.add(type)
                    && (type.particle().map(this::in).orElse(false)
                            || type.derived().stream().anyMatch(this::in));
        }

        private boolean in(Particle particle) {
            if (particle instanceof Particle.OfElement e) {
                return in(e.element().type())
                        || e.element().substitutes().stream().anyMatch(s -> in(s.type()));
            }
            return particle instanceof Particle.OfGroup g
                    && (g.occurs().min() > 1 && repeats(g) || g.parts().stream().anyMatch(this::in));
        }

        private static boolean repeats(Particle.OfGroup group) {
            return group.parts().stream()
                    .anyMatch(p -> p.occurs().max() > 1
                            || p.occurs().max() == Occurs.UNBOUNDED
                            || p instanceof Particle.OfGroup g && repeats(g));
        }
    }

    @Test
    void itFindsWhatIsWrong() {
        Contract contract =
                Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>")));
        SecondValidator second = new SecondValidator(contract.schemas());
        assertThat(second.errors("<t:Root xmlns:t='urn:t'>1</t:Root>")).isEmpty();
        assertThat(second.errors("<t:Root xmlns:t='urn:t'>one</t:Root>")).isNotEmpty();
        assertThat(second.errors("<t:Rood xmlns:t='urn:t'>1</t:Rood>")).isNotEmpty();
    }
}
