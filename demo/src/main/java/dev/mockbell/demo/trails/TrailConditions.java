package dev.mockbell.demo.trails;

import jakarta.activation.DataHandler;
import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebResult;
import jakarta.jws.WebService;
import jakarta.jws.soap.SOAPBinding;
import jakarta.xml.bind.annotation.XmlMimeType;
import java.math.BigDecimal;

/** The operations of the trail conditions service, in the style of remote procedures. */
@WebService(name = "TrailConditionsPort", targetNamespace = "urn:northfell:trail-conditions:service")
@SOAPBinding(style = SOAPBinding.Style.RPC)
public interface TrailConditions {
    /** How the stages of a trail are today. */
    @WebMethod(operationName = "GetTrailReport", action = "urn:northfell:report")
    @WebResult(name = "report", partName = "report")
    TrailReport getTrailReport(@WebParam(name = "trailId", partName = "trailId") String trailId);

    /** Metres to feet and back. */
    @WebMethod(operationName = "ConvertElevation", action = "urn:northfell:convert")
    @WebResult(name = "value", partName = "value")
    BigDecimal convertElevation(
            @WebParam(name = "value", partName = "value") BigDecimal value,
            @WebParam(name = "from", partName = "from") String from,
            @WebParam(name = "to", partName = "to") String to);

    /** The stages that are closed, the latest first. */
    @WebMethod(operationName = "ListClosures", action = "urn:northfell:closures")
    @WebResult(name = "closures", partName = "closures")
    Closures listClosures(@WebParam(name = "most", partName = "most") int most);

    /** Takes a photo and says what came. */
    @WebMethod(operationName = "UploadPhoto", action = "urn:northfell:photo")
    @WebResult(name = "receipt", partName = "receipt")
    PhotoReceipt uploadPhoto(
            @WebParam(name = "trailId", partName = "trailId") String trailId,
            @WebParam(name = "photo", partName = "photo") @XmlMimeType("*/*") DataHandler photo);

    /** Says that the service is up. */
    @WebMethod(operationName = "Ping", action = "urn:northfell:ping")
    @WebResult(name = "answer", partName = "answer")
    String ping();
}
