package dev.mockbell.grid;

import com.typesafe.config.Config;
import com.typesafe.config.ConfigFactory;
import dev.mockbell.problem.Problem;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.apache.pekko.actor.BootstrapSetup;
import org.apache.pekko.actor.setup.ActorSystemSetup;
import org.apache.pekko.actor.typed.ActorSystem;
import org.apache.pekko.actor.typed.Behavior;
import org.apache.pekko.actor.typed.SupervisorStrategy;
import org.apache.pekko.actor.typed.javadsl.Behaviors;
import org.apache.pekko.remote.artery.tcp.SSLEngineProviderSetup;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The cluster engine as it is set up here: mutual TLS, the messages of {@link Spoken} and no others, nothing it decides alone. */
final class GridSystem {
    static final String NAME = "mockbell";

    private static final Logger LOG = LoggerFactory.getLogger(GridSystem.class);
    private static final int FLUSH_MILLIS = 150;
    private static final int END_SECONDS = 10;

    private static final String SETTINGS = """
            pekko {
              stdout-loglevel = off
              loglevel = warning
              log-dead-letters = off
              log-dead-letters-during-shutdown = off
              jvm-exit-on-fatal-error = off
              actor {
                provider = cluster
                allow-java-serialization = off
                serialization-bindings { "dev.mockbell.grid.Spoken" = jackson-cbor }
              }
              # the module for Scala's own types is not there
              serialization.jackson {
                jackson-modules = [
                  "org.apache.pekko.serialization.jackson.PekkoTypedJacksonModule"
                  "com.fasterxml.jackson.module.paramnames.ParameterNamesModule"
                  "com.fasterxml.jackson.datatype.jdk8.Jdk8Module"
                ]
                allowed-class-prefix = []
              }
              remote {
                deployment { enable-allow-list = on, allowed-actor-classes = [] }
                artery {
                  transport = tls-tcp
                  advanced {
                    outbound-message-queue-size = 8192
                    shutdown-flush-timeout = 300ms
                    tcp { connection-timeout = 2s }
                  }
                }
              }
              cluster {
                # who is lost is decided by the coordinator, who tells why
                downing-provider-class = ""
                jmx.enabled = off
                shutdown-after-unsuccessful-join-seed-nodes = off
                seed-node-timeout = 1s
                retry-unsuccessful-join-after = 1s
                # each message takes time from load on a machine that is shared: word of members need not travel fast
                gossip-interval = 500ms
                leader-actions-interval = 250ms
                unreachable-nodes-reaper-interval = 500ms
                run-coordinated-shutdown-when-down = off
                log-info = off
                failure-detector {
                  # the coordinator has signs of life of its own; this is for machines that are cut off
                  monitored-by-nr-of-members = 2
                  heartbeat-interval = 1s
                  acceptable-heartbeat-pause = 2s
                  expected-response-after = 500ms
                }
              }
              coordinated-shutdown {
                exit-jvm = off
                run-by-jvm-shutdown-hook = off
                # nobody hands anything over: whoever leaves has said so
                run-by-actor-system-terminate = off
              }
            }
            """;

    private GridSystem() {}

    /**
     * Starts one.
     *
     * @param host the address of this machine by which the others reach it, and which is listened on
     * @param port 0 for any free one
     * @throws Problem when the address cannot be listened on
     */
    static ActorSystem<Void> start(GridTls tls, String host, int port) {
        Config own = ConfigFactory.parseMap(
                Map.of("pekko.remote.artery.canonical.hostname", host, "pekko.remote.artery.canonical.port", port));
        Config config = own.withFallback(ConfigFactory.parseString(SETTINGS))
                .withFallback(ConfigFactory.defaultReference())
                .resolve();
        ActorSystemSetup setup =
                ActorSystemSetup.create(BootstrapSetup.create(config), SSLEngineProviderSetup.create(system -> tls));
        try {
            return ActorSystem.create(Behaviors.empty(), NAME, setup);
        } catch (RuntimeException e) {
            throw Problem.of(
                    Problem.Kind.PORT_TAKEN,
                    "It is not possible to listen on " + host + ":" + port + ": " + Problem.reason(root(e)),
                    null,
                    "Give another address or port.",
                    e);
        }
    }

    /** One that goes on after a defect in one message; the log has it. */
    static <T> Behavior<T> surviving(Behavior<T> behavior) {
        return Behaviors.supervise(behavior)
                .onFailure(RuntimeException.class, SupervisorStrategy.resume().withLoggingEnabled(true));
    }

    /** Ends one; what was said last is still sent. */
    static void end(ActorSystem<Void> system) {
        try {
            TimeUnit.MILLISECONDS.sleep(FLUSH_MILLIS);
            system.terminate();
            system.getWhenTerminated().toCompletableFuture().get(END_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (ExecutionException | TimeoutException e) {
            LOG.warn("the cluster engine did not end in time", e);
        }
    }

    private static Throwable root(Throwable e) {
        Throwable at = e;
        while (at.getCause() != null && at.getCause() != at) {
            at = at.getCause();
        }
        return at;
    }
}
