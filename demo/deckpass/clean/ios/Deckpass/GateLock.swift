import React

/// Opens the gate of a berth.
@objc(GateLock)
class GateLock: NSObject {
  @objc func open(_ resolve: RCTPromiseResolveBlock, rejecter reject: RCTPromiseRejectBlock) {
    resolve(nil)
  }
}
