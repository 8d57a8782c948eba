package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.ServerSocket;
import org.junit.jupiter.api.Test;

class EventLoopsTest {
    @Test
    void aPortOfAnotherProgramIsToldWhateverTheSystemCallsIt() throws IOException {
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            Problem problem = EventLoops.taken(
                    "127.0.0.1", taken.getLocalPort(), 9_000, new BindException("Adresse wird bereits verwendet"));
            assertThat(problem.kind()).isEqualTo(Problem.Kind.PORT_TAKEN);
            assertThat(problem.getMessage())
                    .contains(taken.getLocalPort() + " is in use")
                    .contains("9000");
        }
    }

    @Test
    void aHostThatIsNotThisMachinesIsNotAPortThatIsTaken() {
        // TEST-NET-1 (RFC 5737) belongs to nobody
        Problem problem = EventLoops.taken(
                "192.0.2.1", 8_480, 8_481, new BindException("Address already in use, says a strange system"));
        assertThat(problem.kind()).isEqualTo(Problem.Kind.INPUT);
        assertThat(problem.getMessage())
                .contains("Cannot listen on 192.0.2.1:8480")
                .contains("Choose another");
    }

    @Test
    void aPortThatWantsRightsIsNotSaidToBeTaken() {
        Problem problem = EventLoops.taken("127.0.0.1", 1, 8_481, new BindException("Permission denied"));
        assertThat(problem.kind()).isEqualTo(Problem.Kind.INPUT);
    }

    @Test
    void aFreePortIsOneThatCanBeListenedOn() throws IOException {
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            int free = EventLoops.freePort(taken.getLocalPort());
            assertThat(free).isNotEqualTo(taken.getLocalPort());
            if (free > 0) {
                try (ServerSocket socket = new ServerSocket(free, 1, InetAddress.getLoopbackAddress())) {
                    assertThat(socket.isBound()).isTrue();
                }
            }
        }
    }
}
